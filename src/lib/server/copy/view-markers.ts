import { stateOf, type CopyState } from '$core/copy/state';
import { agreementOf, type Agreement, type Pair } from '$core/marking/agreement';
import { sideBySide } from '$core/marking/settle';
import type { Grant } from '../access/grant';
import type { Using } from '../services';
import { readLine, type LineEntry } from './marking-place';
import { readStaff, type Marker } from './markers';
import {
  areBothThere,
  hasGiven,
  readMarkedApart,
  readScoresApart,
  type MarkedApart,
  type ScoreApart,
} from './scores-apart';
import { readPointsOf } from './scorings';

/** How far one of the staff is with the copies that are dealt to them. */
interface MarkersProgress extends Marker {
  kind: string;
  dealt: number;
  done: number;
  /** Handed in, and not marked by them. */
  waits: number;
}

/** A copy that both have scored, to be settled. */
export interface ToSettle {
  copy: string;
  name: string;
  by: readonly string[];
  scores: readonly [ScoreApart, ScoreApart];
}

/** How far two people agree, on each criterion or part that both scored. */
export interface PairAgreement {
  by: readonly [string, string];
  lines: { label: string; agreement: Agreement }[];
}

export interface MarkersView {
  staff: MarkersProgress[];
  /** In the order of names. */
  copies: { id: string; name: string; group: string; markers: readonly Marker[] }[];
  toSettle: ToSettle[];
  /** How many copies two mark that not both have scored. */
  waiting: number;
  agreement: PairAgreement[];
  most: string | null;
}

/** Who marks the copies of an assignment in a class, how far each is, and how far those who mark the same copies agree. */
export async function viewMarkers(
  app: Using<'db'>,
  { thing, person }: Grant<'mark its copies'>,
): Promise<MarkersView> {
  const { db } = app;
  const klass = thing.class.id;
  const line = await readLine(db, { assignment: thing.id, klass }, person.id);
  const markers = new Map(line.map((one) => [one.copy.id, one.markers]));
  const copies = line.map(({ copy }) => copy);
  const [staff, apart, scores, most] = await Promise.all([
    readStaff(db, klass),
    readMarkedApart(db, copies, markers),
    readScoresApart(
      db,
      copies.map(({ id }) => id),
    ),
    readPointsOf(db, thing.id),
  ]);
  const toSettle = line.flatMap(({ copy, name }): ToSettle[] => {
    const two = apart.get(copy.id);
    const [a, b] = two && areBothThere(two) ? two.scores : [];
    return two && a && b
      ? [{ copy: copy.id, name, by: two.markers.map((one) => one.name), scores: [a, b] }]
      : [];
  });
  return {
    staff: staff.map((one) => ({ ...one, ...progressOf(one.id, line, apart) })),
    copies: line.map(({ copy, name, group, markers: dealt }) => ({
      id: copy.id,
      name,
      group,
      markers: dealt,
    })),
    toSettle,
    waiting: apart.size - toSettle.length,
    agreement: agreementsOf(line, scores, apart, most),
    most,
  };
}

const MARKED: readonly CopyState[] = ['marked', 'handed back'];

function progressOf(
  person: string,
  line: readonly LineEntry[],
  apart: ReadonlyMap<string, MarkedApart>,
) {
  const own = line.filter(({ markers }) => markers.some(({ id }) => id === person));
  const states = own.map(({ copy }) =>
    hasGiven(apart.get(copy.id), person) ? 'marked' : stateOf(copy.facts),
  );
  return {
    dealt: own.length,
    done: states.filter((state) => MARKED.includes(state)).length,
    waits: states.filter((state) => state === 'handed in').length,
  };
}

/** Of each two people, over the copies that both have scored, be they settled or not. */
function agreementsOf(
  line: readonly LineEntry[],
  scores: readonly ScoreApart[],
  apart: ReadonlyMap<string, MarkedApart>,
  most: string | null,
): PairAgreement[] {
  const found = new Map<string, { by: readonly [string, string]; lines: Map<string, Pair[]> }>();
  for (const { copy, markers } of line) {
    const open = apart.get(copy.id);
    const [first, second] = markers;
    if (!first || !second || (open && !areBothThere(open))) continue;
    const of = (marker: Marker) =>
      scores.find(({ page, person }) => page === copy.id && person === marker.id);
    const [a, b] = [of(first), of(second)];
    if (!a || !b) continue;
    const key = `${first.id} ${second.id}`;
    const pair = found.get(key) ?? { by: [first.name, second.name] as const, lines: new Map() };
    found.set(key, pair);
    for (const { label, steps } of sideBySide([a, b], most))
      pair.lines.set(label, [...(pair.lines.get(label) ?? []), steps]);
  }
  return [...found.values()].map(({ by, lines }) => ({
    by,
    lines: [...lines].flatMap(([label, pairs]) => {
      const agreement = agreementOf(pairs);
      return agreement ? [{ label, agreement }] : [];
    }),
  }));
}
