import fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { plainSpec } from '../../src/lib/core/handout/spec';
import { schema } from '../../src/lib/core/page/schema';
import { grantInClass } from '../../src/lib/server/access/in-the-name-of';
import { viewHours } from '../../src/lib/server/class/hours';
import { viewBoard } from '../../src/lib/server/class/view-class';
import { handBack, score } from '../../src/lib/server/copy/marking';
import { handIn, looked, opened, takeBack } from '../../src/lib/server/copy/moves';
import { Refusal } from '../../src/lib/server/page/refusal';
import { useApp } from '../support/app';
import { allowAs, changeAs, handOutAs, withdrawAs } from '../support/deeds';
import { newPage, toMark, toSee, toWork } from '../support/grants';
import { makeSchool, PLACES, questionPage, type TestSchool } from '../support/school';

const test = useApp();

const STUDENTS = 3;
const deed = fc.oneof(
  fc.record({
    does: fc.constantFrom(
      'open',
      'write',
      'write much',
      'empty',
      'hand in',
      'take back',
      'look',
      'score',
      'hand back',
      'extension',
      'excuse',
      'remove',
      'leave',
      'come back',
    ),
    who: fc.nat(STUDENTS - 1),
    what: fc.nat(2),
  }),
  fc.record({
    does: fc.constantFrom('hand out', 'withdraw', 'bring back', 'move due'),
    who: fc.constant(0),
    what: fc.nat(2),
  }),
);
type Deed = typeof deed extends fc.Arbitrary<infer D> ? D : never;

const byFirst = (...deeds: Deed['does'][]) =>
  deeds.map((does): Deed => ({ does, who: 0, what: 0 }) as Deed);
/** What was removed is there again, and written on. */
const BROUGHT_BACK = byFirst('write', 'remove', 'withdraw', 'bring back', 'write much');
/** Who left comes back, and leaves once more. */
const LEFT_TWICE = byFirst('write', 'leave', 'come back', 'leave');

/** A class of its own, in which this and that is done. */
class Running {
  readonly assignments: string[] = [];
  private clients = 0;

  private constructor(
    readonly school: TestSchool,
    private readonly original: string,
  ) {}

  static async begin(): Promise<Running> {
    const school = await makeSchool(test.app, STUDENTS);
    const original = await newPage(
      test.app.db,
      { in: { kind: 'original', course: school.course }, title: 'Tide', at: new Date() },
      questionPage(),
    );
    return new Running(school, original);
  }

  /** The board and the hours, now or as they stood. */
  async seen(at: Date | null) {
    const { school } = this;
    const grant = await grantInClass(test.app.db, 'see the class', school.teacher, school.class);
    const view = await viewBoard(test.app.db, grant, at);
    return {
      board: view.board,
      gaps: view.counts,
      grades: view.grades.columns,
      hours: (await viewHours(test.app.db, grant, at)).sort((a, b) =>
        `${a.copy} ${a.student}`.localeCompare(`${b.copy} ${b.student}`),
      ),
    };
  }

  private spec(title: string, day: number) {
    const local = `2026-11-${String(10 + day).padStart(2, '0')}T10:50`;
    return plainSpec(this.original, this.school.class, {
      title,
      points: '10',
      due: { kind: 'at', local },
    });
  }
  private async write(page: string, student: string, change: (at: Transform) => void) {
    const { doc, version } = await test.app.pages.open(page);
    const made = new Transform(doc);
    change(made);
    await test.app.pages.append(
      page,
      { id: student, owner: true },
      {
        base: version,
        client: `client of a board, ${this.clients++}`,
        first: 1,
        lost: [],
        steps: made.steps.map((step) => step.toJSON()),
      },
    );
  }

  async do({ does, who, what }: Deed): Promise<unknown> {
    const { app } = test;
    const by = this.school.teacher;
    const at = new Date();
    if (does === 'hand out') {
      const id = crypto.randomUUID();
      await handOutAs(app, { id, spec: this.spec(`Task ${this.assignments.length}`, 0), by, at });
      return void this.assignments.push(id);
    }
    const assignment = this.assignments[what % this.assignments.length];
    const person = this.school.students[who] ?? '';
    if (!assignment) return;
    if (does === 'withdraw') return withdrawAs(app, by, assignment, this.school.class, true);
    if (does === 'bring back') return withdrawAs(app, by, assignment, this.school.class, false);
    if (does === 'move due')
      return void (await changeAs(app, {
        assignment,
        spec: this.spec(`Moved ${at.getTime() % 7}`, at.getTime() % 9),
        begin: 'shared page',
        by,
        at,
      }));
    if (does === 'leave')
      return void (await app.db
        .updateTable('enrolment')
        .set({ left_at: at })
        .where('class_id', '=', this.school.class)
        .where('person_id', '=', person)
        .where('left_at', 'is', null)
        .execute());
    if (does === 'come back')
      return void (await app.db
        .updateTable('enrolment')
        .set({ left_at: null })
        .where('class_id', '=', this.school.class)
        .where('person_id', '=', person)
        .execute());
    const copy = await app.db
      .selectFrom('page')
      .select(['id', 'away_at'])
      .where('assignment_id', '=', assignment)
      .where('student_id', '=', person)
      .executeTakeFirst();
    // Handed out when they had left; or removed, and nobody writes there.
    if (!copy || (copy.away_at && (does.startsWith('write') || does === 'empty'))) return;
    const { id: page } = copy;
    const own = { page, person };
    const theirs = { page, person: by };
    const kind = does === 'excuse' ? 'excused' : 'extension';
    switch (does) {
      case 'remove':
        return void (await app.db
          .updateTable('page')
          .set({ away_at: at })
          .where('id', '=', page)
          .where('away_at', 'is', null)
          .execute());
      case 'open':
        return opened(app, await toSee(app, own));
      case 'write':
        return this.write(page, person, (to) => to.insert(PLACES.writing, schema.text('sea ')));
      case 'write much':
        return this.write(page, person, (to) =>
          to.insert(PLACES.writing, schema.text('salt water '.repeat(20))),
        );
      case 'empty':
        return this.write(page, person, (to) => {
          const here = to.doc.resolve(PLACES.writing);
          to.delete(here.start(), here.end());
        });
      case 'hand in':
        return handIn(app, await toWork(app, own), '');
      case 'take back':
        return takeBack(app, await toWork(app, own));
      case 'look':
        return looked(app, await toMark(app, theirs), null, Infinity);
      case 'score':
        return score(app, await toMark(app, theirs), { given: { points: String(who + 3) } });
      case 'hand back':
        return handBack(app, await toMark(app, theirs), { given: { points: String(who + 5) } });
      default:
        return allowAs(app, {
          by,
          assignment,
          class: this.school.class,
          student: person,
          kind,
          due: kind === 'excused' ? null : new Date('2026-12-01T12:00Z'),
          note: '',
          at,
        });
    }
  }
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

describe('the board as it stood', () => {
  it('is the board of a school in which only what had happened by then was ever entered', async () => {
    await fc.assert(
      fc.asyncProperty(fc.array(deed, { minLength: 8, maxLength: 24 }), async (deeds) => {
        const running = await Running.begin();
        await running.do({ does: 'hand out', who: 0, what: 0 });
        const then: { at: Date; seen: Awaited<ReturnType<Running['seen']>> }[] = [];
        for (const one of deeds) {
          await running.do(one).catch((error: unknown) => {
            // Many a deed is refused as things stand.
            if (!(error instanceof Refusal)) throw error;
          });
          await pause(3);
          const at = new Date();
          then.push({ at, seen: await running.seen(null) });
          await pause(3);
        }
        for (const { at, seen } of then) expect(await running.seen(at)).toEqual(seen);
      }),
      { numRuns: 12, examples: [[BROUGHT_BACK], [LEFT_TWICE]] },
    );
  }, 180_000);
});
