import type { Node } from 'prosemirror-model';
import { inTransaction } from '../src/lib/server/db/transaction';
import { insertOwnPage } from '../src/lib/server/copy/own-pages';
import type { App } from '../src/lib/server/app';
import { DAY, type School } from './school';
import { list, p, page, table } from './write-page';

interface DemoFolio {
  given: string;
  cover: [string, Node];
  /** What is shown to classmates, and what is not. */
  shown: [string, Node][];
  hidden: [string, Node][];
}

/** *My sea book* of three students of 8C. */
const FOLIOS: readonly DemoFolio[] = [
  {
    given: 'Ada',
    cover: ['My sea book', page(p('Everything I find out about our coast, from September on.'))],
    shown: [
      [
        'Words for the sea',
        page(
          p('Words that my grandfather uses and nobody else does:'),
          list(
            'slack: the quarter of an hour when the tide has not decided',
            'the race: where two waters meet',
            'a lop: small waves with no manners',
          ),
        ),
      ],
      [
        'What I saw from the mole',
        page(
          p(
            'Tuesday, half past four. Low water. Nine gulls, one seal, and the skerry dry to its knees.',
          ),
          table([
            ['time', '16:30', '16:45', '17:00'],
            ['steps above the water', '11', '11', '10'],
          ]),
        ),
      ],
    ],
    hidden: [
      [
        'Questions I have not asked',
        page(
          list('Why is the sea grey when the water is clear?', 'Who decides where a light is put?'),
        ),
      ],
      [
        'A poem, not finished',
        page(p('The bell buoy says one word all night,'), p('and nobody has answered it yet.')),
      ],
    ],
  },
  {
    given: 'Dayo',
    cover: ['Boats of Skerry Point', page(p('One boat on each page. Eleven so far.'))],
    shown: [
      ['The pilot boat', page(p('Orange, so that one sees her in fog. She turns on the spot.'))],
    ],
    hidden: [],
  },
  {
    given: 'Viggo',
    cover: [
      'Log of a landlubber',
      page(p('I get seasick. This is a book about looking at the sea from land.')),
    ],
    shown: [],
    hidden: [['Things that stayed where they were', page(p('The church. The mole. Me.'))]],
  },
];

/** Begins them two weeks into the term, a page every few days. */
export async function fillFolios(app: App, school: School): Promise<void> {
  const [klass] = school.classes;
  const begins = klass?.lessons[3]?.starts;
  if (!klass || begins === undefined) throw new Error('the demo term has too few lessons');
  for (const { given, cover, shown, hidden } of FOLIOS) {
    const student = await app.db
      .selectFrom('person')
      .select('id')
      .where('id', 'in', klass.students)
      .where('given', '=', given)
      .executeTakeFirstOrThrow();
    const pages = [
      { folio: 'cover' as const, of: cover },
      ...shown.map((of) => ({ folio: 'shown' as const, of })),
      ...hidden.map((of) => ({ folio: 'hidden' as const, of })),
    ];
    for (const [
      place,
      {
        folio,
        of: [title, doc],
      },
    ] of pages.entries())
      await inTransaction(app.db, async (tx) => {
        const whose = { school: school.id, class: klass.id, student: student.id };
        const id = await insertOwnPage(tx, { ...whose, title, unit: null, folio, place }, doc);
        await tx
          .updateTable('page')
          .set({ made_at: new Date(Math.min(begins + place * 3 * DAY, school.now - DAY)) })
          .where('id', '=', id)
          .execute();
      });
  }
}
