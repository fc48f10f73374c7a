import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { matchFiles, type Known } from './match-files';

const known = (id: string, given: string, family: string, more: Partial<Known> = {}): Known => ({
  id,
  given,
  family,
  email: `${id}@skerrypoint.example`,
  number: '',
  ...more,
});
const CLASS = [
  known('ada', 'Ada', 'Fennick', { email: 'ada.fennick@skerrypoint.example', number: '004127' }),
  known('isla', 'Isla', 'Abernathy', { number: 'S-0412' }),
  known('ben', 'Ben', 'Jarrold'),
  known('zoe', 'Zoë', 'Ó Briain'),
  known('ann', 'Ann', 'Cole'),
  known('annmarie', 'Ann Marie', 'Cole'),
  known('li', '小明', '李'),
  known('olena', 'Олена', 'Шевченко'),
];
const match = (path: string, ignored = '') => matchFiles([path], CLASS, ignored)[0];
const who = (path: string) => {
  const told = match(path);
  return told?.isSure ? told.student : null;
};

describe('whose a file is', () => {
  it('is told by a name, in any order, case and script, written together or apart', () => {
    for (const [path, id] of [
      ['Ada Fennick.pdf', 'ada'],
      ['fennick_ada harbour sketch (1).docx', 'ada'],
      ['FENNICK, ADA – sketch.PDF', 'ada'],
      ['adafennick-sketch.png', 'ada'],
      ['scan-fennickada.pdf', 'ada'],
      ['O Briain Zoe.odt', 'zoe'],
      ['zoë-ó-briain.odt', 'zoe'],
      ['李小明.pdf', 'li'],
      ['作业_李小明.pdf', 'li'],
      ['Шевченко Олена – порт.docx', 'olena'],
      ['Olena/Олена Шевченко.docx', 'olena'],
    ])
      expect([path, who(path ?? '')]).toEqual([path, id]);
  });

  it('is told by a number or an e-mail address', () => {
    expect(match('004127_sketch.pdf')).toMatchObject({
      student: 'ada',
      by: 'number',
      isSure: true,
    });
    expect(match('sketch s-0412.pdf')).toMatchObject({ student: 'isla', by: 'number' });
    expect(match('ada.fennick@skerrypoint.example.zip')).toMatchObject({
      student: 'ada',
      by: 'e-mail',
    });
    expect(who('ada.fennick sketch.pdf')).toBe('ada');
    // Another number is nobody's.
    expect(match('4127.pdf')).toMatchObject({ student: null, candidates: [] });
  });

  it('is told by the folder where the name of the file tells nobody', () => {
    expect(who('8C/Isla Abernathy/IMG_0412.jpg')).toBe('isla');
    expect(who('Abernathy, Isla/sub/folder/photo.jpg')).toBe('isla');
  });

  it('is asked about where it is told by a part of a name, or differently twice', () => {
    expect(match('ben.pdf')).toEqual({
      student: 'ben',
      by: 'part of a name',
      isSure: false,
      candidates: ['ben'],
    });
    expect(match('bjarrold.pdf')).toMatchObject({ student: 'ben', isSure: false });
    expect(match('cole.pdf')).toMatchObject({ student: null, candidates: ['ann', 'annmarie'] });
    expect(match('Ada Fennick/Isla Abernathy.pdf')).toMatchObject({
      student: null,
      isSure: false,
      candidates: ['isla', 'ada'],
    });
    expect(match('Ada Fennick and Ben Jarrold.pdf')).toMatchObject({ student: null });
  });

  it('is of the longer name where two fit', () => {
    expect(who('Ann Marie Cole.pdf')).toBe('annmarie');
    expect(who('Ann Cole.pdf')).toBe('ann');
  });

  it('is nobody’s where nothing tells', () => {
    for (const path of ['IMG_2041.jpg', 'sketch.pdf', '', '/', '....', 'pann.pdf'])
      expect(match(path)).toMatchObject({ student: null, candidates: [] });
    const harbour = known('h', 'Harbour', 'Lind');
    expect(matchFiles(['Harbour sketch.pdf'], [harbour], 'Harbour sketch')[0]).toMatchObject({
      student: null,
      candidates: [],
    });
    expect(matchFiles(['Harbour Lind.pdf'], [harbour], 'Harbour sketch')[0]?.student).toBe('h');
  });

  it('is never surely told where two students are called the same', () => {
    const same = [known('a', 'Ada', 'Fennick'), known('b', 'Ada', 'Fennick')];
    expect(matchFiles(['Ada Fennick.pdf'], same)[0]).toMatchObject({
      student: null,
      candidates: ['a', 'b'],
    });
  });

  it('finds everybody of any class by their whole name', () => {
    const name = fc.stringMatching(/^[A-Z][a-z]{4,8}$/);
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.tuple(name, name), {
          minLength: 1,
          maxLength: 40,
          selector: ([a, b]) => [a, b].sort().join(),
        }),
        fc.constantFrom(' ', '_', '-', ', '),
        (names, between) => {
          const students = names.map(([given, family], n) =>
            known(String(n), given, family, { email: `${n}@x.example` }),
          );
          const paths = names.map(([given, family]) => `${family}${between}${given} sketch.pdf`);
          const told = matchFiles(paths, students).map(({ student }) => student);
          // Of whom another’s two names are made, or who is called by one of them twice, it is asked.
          const plainNames = names.flat();
          const isOwn = (n: number) =>
            names[n]?.every((one) => plainNames.filter((other) => other === one).length === 1);
          for (const [n, student] of told.entries()) if (isOwn(n)) expect(student).toBe(String(n));
        },
      ),
    );
  });
});
