/** Everybody of Skerry Point School. All are invented. */

export const STAFF = [
  { given: 'Tamsin', family: 'Orrey', called: 'Ms Orrey', role: 'teacher' },
  { given: 'Idris', family: 'Halvorsen', called: 'Mr Halvorsen', role: 'teacher' },
  { given: 'Bea', family: 'Lindqvist', called: 'Ms Lindqvist', role: 'teacher' },
  { given: 'Sol', family: 'Petrakis', called: '', role: 'office' },
] as const;

/** Class 8C. */
export const STUDENTS_8C = [
  'Isla Abernathy',
  'Noor Bastrop',
  'Teo Calloway',
  'Priya Dunmore',
  'Viggo Ekholm',
  'Ada Fennick',
  'Malik Garrow',
  'June Hesper',
  'Kaisa Ilves',
  'Ben Jarrold',
  'Oona Kestrel',
  'Dayo Lomax',
  'Luca Marchetti',
  'Freja Nyquist',
  'Zina Okpara',
  'Jan Pellworm',
  'Roisin Quillan',
  'Emil Rask',
  'Sunniva Strand',
  'Tomas Tarn',
  'Una Ulvik',
  'Mateo Varga',
  'Wren Yardley',
] as const;

/** Students who belong to no class of the demo; another class's teacher and student, for trying out rights. */
export const STUDENTS_9A = ['Aino Brask', 'Caspian Dell', 'Hedda Frost', 'Milo Gannet'] as const;

export const PASSWORD = 'skerry-point';

export const signInName = (given: string, family: string): string =>
  `${given}.${family}`.toLowerCase();
