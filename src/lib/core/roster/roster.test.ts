import fc from 'fast-check';
import { distance } from 'fastest-levenshtein';
import { describe, expect, it } from 'vitest';
import { readCsv } from '../formats/csv';
import { guessColumns } from './columns';
import { compareRoster, type Known } from './compare-roster';
import { readRoster, type Entry } from './read-roster';

const rosterOf = (text: string) => {
  const csv = readCsv(text);
  return 'rows' in csv ? readRoster(csv.rows) : csv;
};
const names = (text: string) => {
  const read = rosterOf(text);
  return 'fault' in read ? read.fault : read.entries.map((one) => `${one.family}, ${one.given}`);
};

describe('the columns of a roster', () => {
  it.each([
    ['Family name,Given name', [0, 1]],
    ['First Name;Surname;Form', [1, 0]],
    ['Vorname;Nachname;Klasse', [1, 0]],
    ['NOM;Prénom', [0, 1]],
    ['Apellidos,Nombre', [0, 1]],
    ['Cognome;Nome', [0, 1]],
    ['Achternaam;Voornaam', [0, 1]],
    ['Förnamn;Efternamn', [1, 0]],
    ['Nazwisko;Imię', [0, 1]],
    ['Фамилия;Имя', [0, 1]],
  ])('are guessed from %s', (header, [family, given]) => {
    const columns = guessColumns(header.split(/[,;]/));
    expect([columns?.family, columns?.given]).toEqual([family, given]);
  });

  it('may be one for the whole name, with a number and an address', () => {
    expect(guessColumns(['Schüler/in', 'Nr.', 'E-Mail'])).toEqual({
      family: null,
      given: null,
      name: 0,
      id: 1,
      email: 2,
      signIn: null,
    });
    expect(guessColumns(['Nom', 'Classe'])).toMatchObject({ name: 0, family: null });
    expect(guessColumns(['8C', 'Room 12'])).toBeNull();
  });
});

describe('a roster file', () => {
  it('names its students, whichever way the names are written', () => {
    expect(names('Name\nViggo Ekholm\n"Ilves, Kaisa"\nAnna Maria van Berg\n')).toEqual([
      'Ekholm, Viggo',
      'Ilves, Kaisa',
      'Berg, Anna Maria van',
    ]);
    expect(names('given;family\n"Kaisa\nMaria";Ilves\n')).toEqual(['Ilves, Kaisa Maria']);
  });

  it('names each line that it cannot read, and reads the others', () => {
    const read = rosterOf(
      'given,family,email\nViggo,Ekholm,v@skerry.example\n,Ilves,\n=cmd(),Berg,\nA,B,not an address\nKaisa,Ilves,,too,many\n12,34,\n',
    );
    if ('fault' in read) throw new Error(read.fault);
    expect(read.entries.map(({ line }) => line)).toEqual([2]);
    expect(read.bad.map(({ line }) => line)).toEqual([3, 4, 5, 6, 7]);
    expect(read.bad.map(({ says }) => says).join()).toMatch(
      /no given name.*formula.*not an e-mail address.*5 fields.*not a name/,
    );
  });

  it('is refused with a sentence when it is none', () => {
    expect(names('')).toMatch(/empty/);
    expect(names('a,b\n1,2\n')).toMatch(/names no column for a name/);
    expect(names('given,family\n,\n')).toMatch(/No line/);
    expect(names(`given,family\n${'Viggo,Ekholm\n'.repeat(40_000)}`)).toMatch(/40,000 lines/);
  });
});

const known = (person: string, name: string, rest: Partial<Known> = {}): Known => {
  const [family = '', given = ''] = name.split(', ');
  const about = { email: '', officeId: null, signIn: person, enabled: true, here: 'now' } as const;
  return { person, given, family, ...about, ...rest };
};
const entry = (name: string, rest: Partial<Entry> = {}): Entry => {
  const [family = '', given = ''] = name.split(', ');
  return { line: 2, given, family, email: '', officeId: '', ...rest };
};
const kinds = (entries: Entry[], people: Known[], whole = true) =>
  compareRoster(entries, people, whole).changes.map(({ kind, name }) => `${kind}: ${name}`);

describe('what a roster would change', () => {
  it('is who joins, who leaves, who is renamed', () => {
    const people = [known('1', 'Ekholm, Viggo'), known('2', 'Ilves, Kaisa', { officeId: 'k' })];
    expect(
      kinds([entry('Okpara, Zina'), entry('Ilves-Berg, Kaisa', { officeId: 'k' })], people),
    ).toEqual(['renamed: Ilves-Berg, Kaisa', 'joins: Okpara, Zina', 'leaves: Ekholm, Viggo']);
    expect(kinds([entry('Okpara, Zina')], people, false)).toEqual(['joins: Okpara, Zina']);
  });

  it('knows who signs in by the same name: the same person where the names are near, else in doubt', () => {
    const people = [
      known('1', 'Fennick, Ada', { signIn: 'Ada.Fennick' }),
      known('2', 'Ekholm, Viggo', { signIn: 'viggo', officeId: 'v' }),
    ];
    const of = (name: string, rest: Partial<Entry>) => kinds([entry(name, rest)], people, false);
    expect(of('Fennick, Ada Mae', { signIn: 'ada.fennick' })).toEqual([
      'renamed: Fennick, Ada Mae',
    ]);
    expect(of('Berg, Ada', { signIn: 'ada.fennick' })).toEqual(['doubtful: Berg, Ada']);
    expect(of('Berg, Kaisa', { signIn: 'ada.fennick' })).toEqual(['doubtful: Berg, Kaisa']);
    // The office knows that one by another number.
    expect(of('Berg, Kaisa', { signIn: 'viggo', officeId: 'k' })).toEqual(['joins: Berg, Kaisa']);
  });

  it('follows who may sign in, where the roster says so', () => {
    const people = [known('1', 'Fennick, Ada'), known('2', 'Ekholm, Viggo', { enabled: false })];
    const both = (ada?: boolean, viggo?: boolean) =>
      compareRoster(
        [entry('Fennick, Ada', { enabled: ada }), entry('Ekholm, Viggo', { enabled: viggo })],
        people,
        true,
      );
    expect(both()).toMatchObject({ changes: [], same: 2 });
    expect(both(true, false)).toMatchObject({ changes: [], same: 2 });
    expect(both(false, true)).toMatchObject({
      changes: [
        { kind: 'shut out', person: '1' },
        { kind: 'let in', person: '2' },
      ],
      same: 0,
    });
  });

  it('knows who is meant in spite of accents and case, and who comes back', () => {
    const people = [known('1', 'Ekhólm, Viggo'), known('2', 'Ilves, Kaisa', { here: 'once' })];
    const { changes, same } = compareRoster(
      [entry('EKHÓLM, viggo'), entry('Ilves, Kaisa', { line: 3 })],
      people,
      true,
    );
    expect(changes).toMatchObject([
      { kind: 'renamed', person: '1' },
      { kind: 'joins', person: '2', back: true },
    ]);
    expect(same).toBe(0);
  });

  it('has a whole name under either name’s column, if a comma divides it', () => {
    for (const column of ['Family name', 'Given name']) {
      const other = column === 'Family name' ? 'Given name' : 'Family name';
      expect(names(`${column};${other}\n"Fennick, Ada Mae";\nIlves;Kaisa\n`)?.[0]).toBe(
        'Fennick, Ada Mae',
      );
    }
  });

  it('knows who is meant by their e-mail address, unless the name is quite another', () => {
    const ada = known('1', 'Fennick, Ada', { email: 'ada@skerry.example' });
    const file = (name: string) => [entry(name, { email: 'ada@skerry.example' })];
    expect(kinds(file('Fennick, Ada Mae'), [ada])).toEqual(['renamed: Fennick, Ada Mae']);
    // A brother with the family's address.
    expect(kinds(file('Fennick, Tom'), [ada])).toEqual(['doubtful: Fennick, Tom']);
    const tom = known('2', 'Fennick, Tom', { email: 'ada@skerry.example' });
    expect(kinds(file('Fennick, Ada'), [ada, tom])).toEqual(['leaves: Fennick, Tom']);
    const other = [entry('Fennick, Ada Mae', { email: 'ada@skerry.example', officeId: 'b' })];
    expect(kinds(other, [{ ...ada, officeId: 'a' }])).toEqual([
      'joins: Fennick, Ada Mae',
      'leaves: Fennick, Ada',
    ]);
  });

  it('doubts a middle name that was not there, and never lets the one without it leave', () => {
    expect(kinds([entry('Fennick, Ada Mae')], [known('1', 'Fennick, Ada')])).toEqual([
      'doubtful: Fennick, Ada Mae',
    ]);
    expect(kinds([entry('Fennick, Ada')], [known('1', 'Fennick, Ada Mae')])).toEqual([
      'doubtful: Fennick, Ada',
    ]);
  });

  it('doubts where two names are nearly the same, and never lets the doubted one leave', () => {
    const people = [known('1', 'Marchetti, Luca'), known('2', 'Quillan, Roisin')];
    expect(kinds([entry('Marchetti, Luka'), entry('Roisin, Quillan')], people)).toEqual([
      'doubtful: Marchetti, Luka',
      'doubtful: Roisin, Quillan',
    ]);
    expect(kinds([entry('Fennick-Rowe, Ada')], [known('1', 'Fennick, Ada')])).toEqual([
      'doubtful: Fennick-Rowe, Ada',
    ]);
    // Another number at the office is another person.
    expect(
      kinds(
        [entry('Marchetti, Luka', { officeId: 'b' })],
        [known('1', 'Marchetti, Luca', { officeId: 'a' })],
        false,
      ),
    ).toEqual(['joins: Marchetti, Luka']);
  });

  it('passes over nobody of nearly the same name, however it tells names apart', () => {
    const word = fc.string({
      unit: fc.constantFrom(...'abcdeilnorst'),
      minLength: 2,
      maxLength: 25,
    });
    const edit = fc.record({ at: fc.nat(60), put: fc.constantFrom('', 'x', 'e'), out: fc.nat(1) });
    fc.assert(
      fc.property(word, word, fc.array(edit, { maxLength: 5 }), (family, given, edits) => {
        const written = edits.reduce(
          (text, { at, put, out }) => text.slice(0, at) + put + text.slice(at + out),
          `${family}, ${given}`,
        );
        const [otherFamily = '', otherGiven = ''] = written.split(', ');
        fc.pre(/^[a-z]+, [a-z]+$/.test(written) && written !== `${family}, ${given}`);
        fc.pre(otherGiven !== given && otherFamily !== family);
        const length = family.length + given.length + 2;
        const most = Math.min(3, Math.max(1, Math.floor(length / 6)));
        const isNear = distance(written, `${family}, ${given}`) <= most;
        expect(kinds([entry(written)], [known('1', `${family}, ${given}`)], false)).toEqual([
          `${isNear ? 'doubtful' : 'joins'}: ${written}`,
        ]);
      }),
      { numRuns: 2_000 },
    );
  });

  it('says where a file names somebody twice', () => {
    const { twice, changes } = compareRoster(
      [entry('Ekholm, Viggo'), entry('ekholm, Viggo', { line: 3 })],
      [],
      true,
    );
    expect(changes).toHaveLength(1);
    expect(twice).toEqual([{ line: 3, says: 'ekholm, Viggo stands on line 2 already' }]);
  });

  it('accounts for every line and every student exactly once', () => {
    const name = fc
      .tuple(
        fc.constantFrom('Berg', 'Borg', 'Ilves', 'Okpara'),
        fc.constantFrom('Anna', 'Ana', 'Kai'),
      )
      .map(([family, given]) => ({ family, given }));
    const id = fc.constantFrom('', 'x', 'y', 'z');
    const entries = fc
      .array(fc.tuple(name, id), { maxLength: 8 })
      .map((all) =>
        all.map(([one, officeId], i): Entry => ({ ...one, officeId, email: '', line: i + 2 })),
      );
    const people = fc
      .array(fc.tuple(name, fc.constantFrom<Known['here']>('now', 'once', 'never')), {
        maxLength: 8,
      })
      .map((all) =>
        all.map(([one, here], i): Known => ({
          ...one,
          here,
          person: `p${i}`,
          email: '',
          officeId: null,
          signIn: `p${i}`,
          enabled: true,
        })),
      );
    fc.assert(
      fc.property(entries, people, fc.boolean(), (some, all, whole) => {
        const { changes, same, twice } = compareRoster(some, all, whole);
        const keys = changes.map(({ key }) => key);
        expect(new Set(keys).size).toBe(keys.length);
        const lines = new Set([
          ...changes.flatMap(({ line }) => line ?? []),
          ...twice.map(({ line }) => line),
        ]);
        expect(lines.size + same).toBe(some.length);
        const touched = changes.flatMap((one) =>
          one.kind === 'renamed' ? [] : (one.person ?? []),
        );
        expect(new Set(touched).size).toBe(touched.length);
        const leaving = changes.filter(({ kind }) => kind === 'leaves');
        expect(whole || leaving.length === 0).toBe(true);
        for (const one of leaving)
          expect(all.find(({ person }) => person === one.person)?.here).toBe('now');
      }),
      { numRuns: 500 },
    );
  });
});
