/** A student of a class, as far as the name of a file may tell them. */
export interface Known {
  id: string;
  given: string;
  family: string;
  email: string;
  /** The school office's number for them; empty where there is none. */
  number: string;
}

/** By what a file's name tells a student. */
type By = 'e-mail' | 'number' | 'name' | 'part of a name';

/** Whose a file is, as far as its name tells. */
export interface Match {
  /** Nobody where its name tells no one, or several equally well. */
  student: string | null;
  by: By | null;
  /** It need not be asked about: it tells one student, and not by a part of a name. */
  isSure: boolean;
  /** Everybody whom it may mean, the likeliest first. */
  candidates: readonly string[];
}

const NOBODY: Match = { student: null, by: null, isSure: false, candidates: [] };

/** Words of a text, without regard to case, accents, and what stands between them: "Zoë_Ó Briain-2" → zoe o briain 2. */
const plainWords = (text: string): string[] =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .match(/\p{L}+|\p{N}+/gu) ?? [];

const joined = (text: string): string => plainWords(text).join('');

/** A student, with all that is compared of them made plain once. */
function plain({ id, given, family, email, number }: Known) {
  const [mailbox = ''] = email.split('@');
  const [first, last] = [joined(given), joined(family)];
  return {
    id,
    given: plainWords(given),
    family: plainWords(family),
    /** Both together, in either order; none where one is missing. */
    whole: first && last ? [first + last, last + first] : [],
    isLatin: /\p{Script=Latin}/u.test(first + last),
    email: joined(email),
    mailbox: joined(mailbox),
    number: number.toLowerCase(),
  };
}
type Plain = ReturnType<typeof plain>;

/** Fewer letters of a name that is written together may stand there by chance. */
const LEAST_INSIDE = 5;

/** So many words that stand one after the other are read as one. */
const MOST_TOGETHER = 6;

/** One part of a path, made plain once. */
function readPart(part: string) {
  const words = plainWords(part);
  const runs = new Set<string>();
  for (const from of words.keys())
    for (let to = from + 1; to <= Math.min(words.length, from + MOST_TOGETHER); to++)
      runs.add(words.slice(from, to).join(''));
  return {
    words: new Set(words),
    /** Words that stand one after the other, written together. */
    runs,
    joined: words.join(''),
    // A number is not cut where letters begin: "s-0412" and "A17".
    tokens: new Set(part.toLowerCase().split(/[^\p{L}\p{N}.-]+|\.[a-z0-9]{1,5}$/u)),
  };
}
type Part = ReturnType<typeof readPart>;

const holdsAll = (part: Part, words: readonly string[]) =>
  words.length > 0 && words.every((word) => part.words.has(word));

const holdsNumber = (part: Part, number: string) =>
  number !== '' && (part.words.has(number) || part.tokens.has(number));

const EVIDENCE: readonly { by: By; tells: (part: Part, student: Plain) => boolean }[] = [
  { by: 'e-mail', tells: (part, { email }) => email !== '' && part.joined.includes(email) },
  { by: 'number', tells: (part, { number }) => holdsNumber(part, number) },
  {
    by: 'name',
    tells: (part, { given, family, whole, isLatin }) => {
      if (holdsAll(part, given) && holdsAll(part, family)) return true;
      // Some scripts write without spaces.
      return isLatin
        ? whole.some((name) => name.length >= LEAST_INSIDE && part.runs.has(name))
        : whole.some((name) => [...part.words].some((word) => word.includes(name)));
    },
  },
  {
    // A mailbox that is called like a given name tells no more than that does.
    by: 'e-mail',
    tells: (part, { mailbox, given, family }) =>
      mailbox.length >= LEAST_INSIDE &&
      mailbox !== given.join('') &&
      mailbox !== family.join('') &&
      part.runs.has(mailbox),
  },
  {
    by: 'part of a name',
    tells: (part, { given, family }) => {
      const [first = ''] = given;
      const initial = first.slice(0, 1);
      const last = family.join('');
      return (
        holdsAll(part, family) ||
        part.words.has(first) ||
        (last !== '' &&
          initial !== '' &&
          (part.words.has(initial + last) || part.words.has(last + initial)))
      );
    },
  },
];

const STRONG = EVIDENCE.filter(({ by }) => by !== 'part of a name');

/** Whether all that a student is called is a part of what another is called: Ann Cole, and Ann Marie Cole. */
const isWithin = (student: Plain, other: Plain) => {
  const words = [...other.given, ...other.family];
  const own = [...student.given, ...student.family];
  return own.length < words.length && own.every((word) => words.includes(word));
};

function matchPart(part: Part, students: readonly Plain[]): Match {
  for (const kinds of [STRONG, EVIDENCE]) {
    const told = students.flatMap((student) => {
      const how = kinds.find(({ tells }) => tells(part, student));
      return how ? { student, by: how.by } : [];
    });
    // The longer name was meant.
    const fits = told.filter(
      ({ student }) => kinds !== STRONG || !told.some((other) => isWithin(student, other.student)),
    );
    const [first] = fits;
    if (!first) continue;
    const isOne = fits.length === 1;
    return {
      student: isOne ? first.student.id : null,
      by: first.by,
      isSure: isOne && kinds === STRONG,
      candidates: [...new Set([...fits, ...told].map(({ student }) => student.id))],
    };
  }
  return NOBODY;
}

/**
 * Whose each file is, told from its name, and where that tells nobody from the folders that it lies in, the nearest first. What its
 * name and its folders say differently is asked about.
 * @param paths "Isla Abernathy/sketch.pdf"
 * @param ignored words that say what the work is about and not whose it is: the assignment's title
 */
export function matchFiles(
  paths: readonly string[],
  students: readonly Known[],
  ignored = '',
): Match[] {
  const known = students.map(plain);
  const words = new Set(plainWords(ignored));
  // A folder’s files all lie in the same ones.
  const told = new Map<string, Match>();
  const match = (part: string) => {
    const found = told.get(part) ?? matchPart(readPart(part), known);
    told.set(part, found);
    return found;
  };
  return paths.map((path) => {
    const parts = path.split('/').filter(Boolean).reverse();
    const matches = parts.map(match);
    const sure = matches.filter(({ isSure }) => isSure);
    const [first] = sure;
    if (first) {
      const others = sure.filter(({ student }) => student !== first.student);
      if (others.length === 0) return first;
      const candidates = [...new Set(sure.flatMap((match) => match.candidates))];
      return { student: null, by: first.by, isSure: false, candidates };
    }
    // A student called Harbour is not meant by "Harbour sketch".
    const without = parts.map((part) =>
      match(
        plainWords(part)
          .filter((word) => !words.has(word))
          .join(' '),
      ),
    );
    return without.find(({ candidates }) => candidates.length > 0) ?? NOBODY;
  });
}
