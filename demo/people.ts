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

/** Classes 8A and 8B. */
export const STUDENTS_8A = [
  ...[
    'Alva Brennick',
    'Boris Cardew',
    'Cleo Danforth',
    'Dmitri Elstow',
    'Esme Fairlie',
    'Finn Gorse',
  ],
  ...[
    'Gwen Harrowby',
    'Hugo Inverarity',
    'Ingrid Jessop',
    'Jonas Kittow',
    'Keira Lundgren',
    'Leif Morrow',
  ],
  ...[
    'Marta Nordby',
    'Niall Oxley',
    'Odette Pascoe',
    'Piet Ravensworth',
    'Rosa Saltmarsh',
    'Silas Tregear',
  ],
  ...['Tilda Umber', 'Ursel Venn', 'Vera Wexcombe', 'Will Yelland', 'Xenia Zennor', 'Yann Ashdown'],
] as const;
export const STUDENTS_8B = [
  ...['Anders Bellweather', 'Birgit Coombe', 'Cormac Drifthouse', 'Delia Eastholm', 'Edvin Farrar'],
  ...[
    'Fiona Gullane',
    'Gregor Hythe',
    'Hanna Isbister',
    'Ivo Jarrow',
    'Jette Kelpie',
    'Kirsten Lowmoor',
  ],
  ...[
    'Lars Merrick',
    'Mina Nesbit',
    'Nils Orford',
    'Orla Pentreath',
    'Pavel Quayle',
    'Rhona Sandness',
  ],
  ...[
    'Soren Thurlow',
    'Tess Underhill',
    'Ugo Verity',
    'Vida Windrush',
    'Wilma Yarrow',
    'Yusuf Arden',
  ],
  ...['Zoe Birchgrove', 'Aksel Corrie'],
] as const;

/** Students who belong to no class of the demo; another class's teacher and student, for trying out rights. */
export const STUDENTS_9A = ['Aino Brask', 'Caspian Dell', 'Hedda Frost', 'Milo Gannet'] as const;

export const PASSWORD = 'skerry-point';

export const signInName = (given: string, family: string): string =>
  `${given}.${family}`.toLowerCase();
