import { plainWord } from '../text/plain-word';

/** What a column of a roster can hold. */
export const FIELDS = ['family', 'given', 'name', 'id', 'email', 'signIn'] as const;
export type Field = (typeof FIELDS)[number];

/** Which column, counted from 0, holds what; null for none. `name` holds a whole name in one column. */
export type Columns = Record<Field, number | null>;

/** Headers that schools' systems write, in several languages; from memory. Compared without case, signs and accents. */
const HEADERS: Record<Field, readonly string[]> = {
  family: [
    ...['family name', 'familyname', 'surname', 'last name', 'lastname', 'family', 'last'],
    ...['nachname', 'familienname', 'nom', 'nom de famille', 'apellido', 'apellidos', 'cognome'],
    ...[
      'achternaam',
      'efternamn',
      'efternavn',
      'etternavn',
      'sukunimi',
      'nazwisko',
      'sobrenome',
      'apelido',
    ],
    ...['prijmeni', 'priezvisko', 'vezeteknev', 'soyadi', 'фамилия', 'прізвище', 'επωνυμο'],
  ],
  given: [
    ...['given name', 'givenname', 'first name', 'firstname', 'forename', 'given', 'first'],
    ...[
      'vorname',
      'rufname',
      'prenom',
      'nombre',
      'nombres',
      'nome',
      'voornaam',
      'fornamn',
      'fornavn',
    ],
    ...[
      'etunimi',
      'imie',
      'nome proprio',
      'jmeno',
      'krstne meno',
      'keresztnev',
      'utonev',
      'adi',
      'имя',
    ],
    ...['імя', 'ονομα'],
  ],
  name: [
    ...[
      'name',
      'full name',
      'fullname',
      'student',
      'student name',
      'pupil',
      'pupil name',
      'learner',
    ],
    ...['schuler', 'schulerin', 'schuler in', 'nom et prenom', 'nom complet', 'nombre completo'],
    ...[
      'nome completo',
      'naam',
      'namn',
      'navn',
      'nimi',
      'imie i nazwisko',
      'alumno',
      'alunno',
      'eleve',
      'elev',
    ],
  ],
  id: [
    ...[
      'id',
      'sourcedid',
      'sourced id',
      'student id',
      'studentid',
      'student number',
      'pupil number',
      'upn',
    ],
    ...[
      'identifier',
      'number',
      'no',
      'nr',
      'nummer',
      'schulernummer',
      'matrikel',
      'matricule',
      'numero',
    ],
    ...['matricola', 'leerlingnummer', 'elevnummer', 'admission number', 'reference'],
  ],
  email: [
    ...['email', 'e mail', 'mail', 'email address', 'e mail address', 'e mail adresse', 'courriel'],
    ...['correo', 'correo electronico', 'posta elettronica', 'e post', 'epost', 'sahkoposti'],
  ],
  signIn: [
    ...[
      'sign in name',
      'sign in',
      'signin',
      'username',
      'user name',
      'user',
      'login',
      'login name',
    ],
    ...['account', 'benutzername', 'benutzer', 'anmeldename', 'identifiant', 'usuario', 'utente'],
    ...['gebruikersnaam', 'brugernavn', 'brukernavn', 'anvandarnamn', 'kayttajatunnus'],
  ],
};

/**
 * Guesses what the columns of a header row hold.
 * @returns null when no name is among them: then it is no header
 */
export function guessColumns(header: readonly string[]): Columns | null {
  const words = header.map(plainWord);
  const columns: Columns = {
    family: null,
    given: null,
    name: null,
    id: null,
    email: null,
    signIn: null,
  };
  const taken = new Set<number>();
  for (const field of FIELDS) {
    const index = words.findIndex((word, i) => !taken.has(i) && HEADERS[field].includes(word));
    if (index < 0) continue;
    columns[field] = index;
    taken.add(index);
  }
  // In French "nom" alone is a whole name, beside "prénom" the family name; likewise "nombre" and "nome" when alone.
  if (columns.family !== null && columns.given === null && columns.name === null)
    return { ...columns, name: columns.family, family: null };
  if (columns.given !== null && columns.family === null && columns.name === null)
    return { ...columns, name: columns.given, given: null };
  const named = columns.name !== null || (columns.family !== null && columns.given !== null);
  return named ? columns : null;
}
