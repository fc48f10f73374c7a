import { itemFigures, type ItemFigures } from '$core/marking/item-figures';
import type { AnswerKey } from '$core/marking/answer-key';
import { worthOf } from '$core/marking/answer-key';
import { checkParts, type CheckedPart } from '$core/marking/check-copy';
import { pileUp, type Pile } from '$core/marking/piles';
import type { SaidOnPile } from '$core/marking/said-on-piles';
import { byKey, givenTo, pointsOfPart, shareOfPart } from '$core/marking/sum-parts';
import { grouped } from '$core/lists/grouped';
import { isBehind } from '$core/copy/copy-row';
import { stateOf } from '$core/copy/state';
import type { Part } from '$core/page/parts';
import type { Grant } from '../access/grant';
import type { Connection } from '../page/page-store';
import { readNames } from '../school/names';
import type { Using } from '../services';
import { readApart } from './piles-apart';
import { readSaidOnPiles } from './said-on-pile';
import { readMarkedClasses, readScoredCopies, type ScoredCopy } from './scored-copies';

/** One copy's answer to a part, as it lies in a pile. */
export interface PiledAnswer extends Pick<Part, 'kind' | 'answer' | 'chosen'> {
  copy: string;
  class: string;
  /** "Ada Fennick", or all who share the copy. */
  names: string[];
  /** A decimal text; null where nobody scored it. */
  points: string | null;
  /** What its key gives it; null where it says nothing. */
  byKey: string | null;
  /** Whether a person gave them, and why; null where its key did, or nobody. */
  given: { reason: string } | null;
  /** Its student has the copy back. */
  isBack: boolean;
  /** What was said on it together with others, and stands open. */
  said: SaidOnPile[];
}

/** A part of a page, across the copies that are looked at. */
interface PartLine {
  id: string;
  number: number;
  label: string;
  kind: Part['kind'];
  /** What it counts for; null for nothing. */
  most: string | null;
  /** The share of its points that was reached, 0 to 1, by those who are scored; null for nobody. */
  reached: number | null;
  /** How many answers wait for a person. */
  left: number;
}

export interface PartPiles {
  title: string;
  /** The pages of the assignment that are scored part by part. */
  pages: { id: string; title: string }[];
  /** The one that is looked at; null where nothing was handed in. */
  page: string | null;
  /** Scored by a rubric: piles are read and commented, and points are given elsewhere. */
  byRubric: boolean;
  classes: { id: string; name: string }[];
  parts: PartLine[];
  part: string | null;
  /** The pages that have this part, and what counts as right in the first of them. */
  keyPages: string[];
  key: AnswerKey | null;
  piles: Pile<PiledAnswer>[];
  /** Who did not answer. */
  blank: PiledAnswer[];
  figures: ItemFigures | null;
  /** Copies whose points were changed after they were handed back. */
  behind: { id: string; names: string[] }[];
}

export interface PilesAsked {
  /** The original whose copies are looked at; the first where it is left out. */
  page: string | null;
  part: string | null;
  /** Of all classes that the person marks, and not of this one alone. */
  all: boolean;
}

/** How the parts of a copy count now: as they were scored last, else as their keys say. */
const countedNow = (one: ScoredCopy): readonly CheckedPart[] =>
  (one.checked ?? (one.otherwise ? null : checkParts(one.parts, one.keys)))?.parts ?? [];

/** One part of an assignment's copies, in piles. */
export async function viewPiles(
  { db }: Using<'db'>,
  grant: Pick<Grant<'mark its copies'>, 'thing' | 'person'>,
  asked: PilesAsked,
): Promise<PartPiles> {
  const { thing, person } = grant;
  const { title, rubric_id } = await db
    .selectFrom('assignment')
    .select(['title', 'rubric_id'])
    .where('id', '=', thing.id)
    .executeTakeFirstOrThrow();
  const classes = await readMarkedClasses(db, grant);
  const looked = asked.all ? classes.map(({ id }) => id) : [thing.class.id];
  const copies = await readScoredCopies(db, thing.id, looked, person.id);
  const originals = [...new Set(copies.map(({ copy }) => copy.for))];
  const page = originals.find((id) => id === asked.page) ?? originals[0] ?? null;
  const own = copies.filter(({ copy }) => copy.for === page);
  const counted = new Map(own.map((one) => [one.copy.id, countedNow(one)]));
  const parts = linesOf(own, counted);
  const part =
    parts.find(({ id }) => id === asked.part) ?? parts.find(({ left }) => left > 0) ?? parts[0];
  const names = await readNames(
    db,
    own.flatMap(({ copy }) => copy.members),
  );
  const ids = own.map(({ copy }) => copy.id);
  const apart = await readApart(db, part?.id ?? '', ids);
  const said = grouped(await readSaidOnPiles(db, part?.id ?? '', ids), ({ copy }) => copy);
  const className = new Map(classes.map((one) => [one.id, one.name]));
  const answers = own.flatMap(({ copy, parts: theirs }): PiledAnswer[] => {
    const answered = theirs.find(({ id }) => id === part?.id);
    const scored = counted.get(copy.id)?.find(({ id }) => id === part?.id);
    if (!answered) return [];
    const given = scored && givenTo(scored);
    return [
      {
        kind: answered.kind,
        answer: answered.answer,
        chosen: answered.chosen,
        copy: copy.id,
        class: className.get(copy.class) ?? '',
        names: copy.members.map((id) => names[id] ?? ''),
        points: scored ? pointsOfPart(scored) : null,
        byKey: scored ? byKey(scored) : null,
        given: given ? { reason: given.reason } : null,
        isBack: stateOf(copy.facts) === 'handed back',
        said: (said.get(copy.id) ?? []).map((one) => one.said),
      },
    ];
  });
  const having = own.filter(({ parts: theirs }) => theirs.some(({ id }) => id === part?.id));
  return {
    title,
    pages: await readTitles(db, originals),
    page,
    byRubric: rubric_id !== null,
    classes,
    parts,
    part: part?.id ?? null,
    keyPages: [...new Set(having.map(({ keyPage }) => keyPage))],
    key: (part && having[0]?.keys[part.id]) ?? null,
    piles: pileUp(answers, apart),
    behind: own
      .filter(({ copy }) => isBehind(copy))
      .map(({ copy }) => ({ id: copy.id, names: copy.members.map((id) => names[id] ?? '') })),
    blank: answers.filter(({ answer, chosen }) => answer === '' && chosen.length === 0),
    figures:
      figuresOf(parts, [...counted.values()])[parts.findIndex((one) => one === part)] ?? null,
  };
}

const readTitles = async (db: Connection, pages: readonly string[]) =>
  pages.length === 0
    ? []
    : db.selectFrom('page').select(['id', 'title']).where('id', 'in', pages).execute();

const figuresOf = (
  parts: readonly PartLine[],
  copies: readonly (readonly CheckedPart[])[],
): (ItemFigures | null)[] =>
  itemFigures(
    copies.map((scored) => parts.map(({ id }) => shareOfPart(scored.find((one) => one.id === id)))),
  );

function linesOf(
  copies: readonly ScoredCopy[],
  counted: ReadonlyMap<string, readonly CheckedPart[]>,
): PartLine[] {
  const all = copies.flatMap(({ copy, parts, keys, otherwise }) =>
    parts.map((part) => ({
      part,
      key: keys[part.id] ?? null,
      otherwise,
      scored: counted.get(copy.id)?.find(({ id }) => id === part.id),
    })),
  );
  return [...grouped(all, ({ part }) => part.id)]
    .map(([id, some]): PartLine => {
      const { number, label, kind } = some[0]?.part ?? {
        number: 0,
        label: '',
        kind: 'short' as const,
      };
      const key = some.find((one) => one.key)?.key ?? null;
      const shares = some.flatMap(({ scored }) => shareOfPart(scored) ?? []);
      return {
        id,
        number,
        label,
        kind,
        most: key && worthOf(key),
        reached:
          shares.length > 0 ? shares.reduce((sum, one) => sum + one, 0) / shares.length : null,
        left: key
          ? some.filter(({ scored, otherwise }) => !otherwise && shareOfPart(scored) === null)
              .length
          : 0,
      };
    })
    .sort((a, b) => a.number - b.number);
}
