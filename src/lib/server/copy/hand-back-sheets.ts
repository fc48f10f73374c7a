import type { CopyRow } from '$core/copy/copy-row';
import { isWithTeacher, stateOf } from '$core/copy/state';
import type { ThreadView } from '$core/copy/threads';
import type { ProposalView } from '$core/proposals/proposal';
import type { Grant } from '../access/grant';
import { readStudents } from '../class/board';
import type { Using } from '../services';
import { isMarkedApart } from '$core/marking/apart';
import { readCopies } from './facts';
import { readMarkers } from './markers';
import { readScoring, type GivenScoring } from './scorings';
import { readMargin } from './threads';
import { viewerOf } from './viewer';

/** A copy with what goes back with it: what its student sees then. */
export interface HandBackSheet {
  copy: CopyRow;
  names: string[];
  doc: object;
  /** In the order of the page; what is for the staff alone is left out. */
  threads: ThreadView[];
  proposals: ProposalView[];
  given: GivenScoring | null;
}

/** The copies of an assignment that are with the teacher or back, by their students' names, as they go back. */
export async function viewHandBackSheets(
  app: Using<'db' | 'pages'>,
  { thing, person }: Grant<'mark its copies'>,
): Promise<HandBackSheet[]> {
  const { db, pages } = app;
  const klass = thing.class.id;
  const students = await readStudents(db, klass);
  const copies = await readCopies(db, { class: klass, assignment: thing.id }, person.id);
  const markers = await readMarkers(db, { assignment: thing.id, class: klass });
  const sheets: HandBackSheet[] = [];
  for (const copy of copies) {
    // Two mark it apart: it goes back once that is settled.
    if (isMarkedApart(markers.get(copy.id) ?? [], copy.facts)) continue;
    const state = stateOf(copy.facts);
    if (copy.delivery === 'to read' || !(isWithTeacher(state) || state === 'handed back')) continue;
    const [held, margin, given] = await Promise.all([
      pages.open(copy.id),
      readMargin(app, copy.id, viewerOf(person)),
      readScoring(db, copy.score),
    ]);
    const names = students
      .filter(({ id }) => copy.members.includes(id))
      .map((one) => `${one.given} ${one.family}`);
    const threads = margin.threads.filter(({ staffOnly, settled }) => !staffOnly && !settled);
    const proposals = margin.proposals.filter((one) => one.state === 'open');
    sheets.push({ copy, names, doc: held.doc.toJSON() as object, threads, proposals, given });
  }
  const place = ({ copy }: HandBackSheet) =>
    students.findIndex(({ id }) => copy.members.includes(id));
  return sheets.sort((a, b) => place(a) - place(b));
}
