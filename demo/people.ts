/** Everybody of Skerry Point School. All are invented. */

export const STAFF = [
  { given: 'Tamsin', family: 'Orrey', called: 'Ms Orrey', role: 'teacher' },
  { given: 'Idris', family: 'Halvorsen', called: 'Mr Halvorsen', role: 'teacher' },
  { given: 'Bea', family: 'Lindqvist', called: 'Ms Lindqvist', role: 'teacher' },
  { given: 'Sol', family: 'Petrakis', called: '', role: 'office' },
] as const;

/** A list of full names, between commas. */
const names = (list: string): readonly string[] => list.split(',').map((name) => name.trim());

/** Who is in which class. */
export const STUDENTS = {
  '8A': names(`
    Alva Brennick, Boris Cardew, Cleo Danforth, Dmitri Elstow, Esme Fairlie, Finn Gorse,
    Gwen Harrowby, Hugo Inverarity, Ingrid Jessop, Jonas Kittow, Keira Lundgren, Leif Morrow,
    Marta Nordby, Niall Oxley, Odette Pascoe, Piet Ravensworth, Rosa Saltmarsh, Silas Tregear,
    Tilda Umber, Ursel Venn, Vera Wexcombe, Will Yelland, Xenia Zennor, Yann Ashdown`),
  '8B': names(`
    Anders Bellweather, Birgit Coombe, Cormac Drifthouse, Delia Eastholm, Edvin Farrar,
    Fiona Gullane, Gregor Hythe, Hanna Isbister, Ivo Jarrow, Jette Kelpie, Kirsten Lowmoor,
    Lars Merrick, Mina Nesbit, Nils Orford, Orla Pentreath, Pavel Quayle, Rhona Sandness,
    Soren Thurlow, Tess Underhill, Ugo Verity, Vida Windrush, Wilma Yarrow, Yusuf Arden,
    Zoe Birchgrove, Aksel Corrie`),
  '8C': names(`
    Isla Abernathy, Noor Bastrop, Teo Calloway, Priya Dunmore, Viggo Ekholm, Ada Fennick,
    Malik Garrow, June Hesper, Kaisa Ilves, Ben Jarrold, Oona Kestrel, Dayo Lomax, Luca Marchetti,
    Freja Nyquist, Zina Okpara, Jan Pellworm, Roisin Quillan, Emil Rask, Sunniva Strand,
    Tomas Tarn, Una Ulvik, Mateo Varga, Wren Yardley`),
  '9A': names(`
    Aino Brask, Caspian Dell, Hedda Frost, Milo Gannet, Agnes Harland, Bruno Iversen,
    Cora Kessock, Dario Lunde, Elin Maddern, Fergus Noble, Greta Oldcorn, Henrik Polwarth,
    Iona Rannoch, Jory Selwood, Katla Thorne, Linus Umfray, Maren Vask, Noel Wetherby,
    Oskar Yelverton, Perla Zeeman, Rufus Askew`),
} as const;

export const PASSWORD = 'skerry-point';

export const signInName = (given: string, family: string): string =>
  `${given}.${family}`.toLowerCase();
