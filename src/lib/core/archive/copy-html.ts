import { sayTimeOfYear } from '../calendar/say-time';
import { writePoints } from '../marking/points';
import { descriptorsOf, saySum, stepAt, sumOf } from '../marking/rubric-steps';
import type { Scoring } from '../marking/scoring';
import type { Node } from 'prosemirror-model';
import type { ProposalState, ProposalWords } from '../proposals/proposal';
import { sayProposal, sayState } from '../proposals/say-proposal';
import { escape, href, htmlPage } from './html';
import { piecesOf } from '../text/formulas';
import { formulaHtml, pageHtml } from './page-html';

/** A scoring or points that a copy was given. Instants in epoch milliseconds. */
export interface ArchivedScore {
  at: number;
  by: string;
  /** What it comes to, as decimal text; null where points were taken away. */
  points: string | null;
  scoring: Scoring | null;
  /** Whether it was handed back, and so seen by its students; null for one that never goes back. */
  back: boolean | null;
}

/** What students scored a copy with last: those whose it is, or classmates. */
interface ArchivedStudentScoring {
  at: number;
  by: string;
  scoring: Scoring;
  /** It did not go back to those whose copy it is. */
  withheld: boolean;
}

interface ArchivedThread {
  quote: string;
  /** Where it stands on something attached; empty for one on the page. */
  on: string;
  /** The digest of its picture, of one that is a teacher’s own stamp. */
  stamp: string | null;
  comments: readonly {
    by: string;
    at: number;
    text: string;
    kind: string;
    /** The id of its picture, or of what was spoken. */
    file: string | null;
  }[];
}

interface ArchivedProposal extends ProposalWords {
  by: string;
  at: number;
  /** What was decided last; null for nothing. */
  became: { state: ProposalState; by: string; at: number } | null;
}

/** A file that lies beside a page of an archive. */
export interface AttachedFile {
  path: string;
  name: string;
  /** The link that it was kept of; null for a file. */
  url: string | null;
  /** It was removed again. */
  away: boolean;
}

/** A page as it is written into an archive, with all that belongs to it. */
export interface ArchivedPage {
  title: string;
  /** Whose it is, and where: "Isla Abernathy · 8C Coast & Chart". */
  about: readonly string[];
  instructions: string;
  page: Node;
  /** What it counts for; null for no points. */
  most: string | null;
  scores: readonly ArchivedScore[];
  /** What each of two who marked it gave it, before it was settled. */
  apart: readonly ArchivedScore[];
  fromStudents: readonly ArchivedStudentScoring[];
  threads: readonly ArchivedThread[];
  proposals: readonly ArchivedProposal[];
  attached: readonly AttachedFile[];
  /** What happened to it. */
  record: readonly { at: number; says: string }[];
  /** Versions that were kept and are not how it stands now. */
  earlier: readonly { says: string; at: number; page: Node }[];
}

const paragraphs = (text: string): string => escape(text).replaceAll('\n', '<br>');

function scoringHtml({ rubric: { title, table }, criteria, overruled }: Scoring): string {
  const rows = table.criteria.map((criterion) => {
    const own = criteria.find(({ id }) => id === criterion.id);
    const step = stepAt(table, own?.points ?? null);
    const says = step
      ? descriptorsOf(table, criterion.id, step)
          .map((one) => escape(one.says))
          .filter(Boolean)
          .join(' / ')
      : '';
    const words = own?.words ? `<br><em>${paragraphs(own.words)}</em>` : '';
    return `<tr><td>${escape(criterion.title)}</td><td>${own?.points ? writePoints(own.points) : '–'}</td><td>${says}${words}</td></tr>`;
  });
  const sum = saySum(sumOf(table, criteria));
  const other = overruled
    ? `<p>${writePoints(overruled.points)} points count instead: ${paragraphs(overruled.reason)}</p>`
    : '';
  return `<p><strong>${escape(title)}</strong>, ${sum}</p><table>${rows.join('')}</table>${other}`;
}

function scoreHtml(score: ArchivedScore, most: string | null, zone: string): string {
  const { at, by, points, scoring, back } = score;
  const given =
    points === null
      ? 'no points'
      : `${writePoints(points)}${most ? ` of ${writePoints(most)}` : ''} points`;
  return `<div><p><strong>${given}</strong> <span class="small">${escape(by)}, ${sayTimeOfYear(at, zone)}${back === false ? ', kept back' : ''}</span></p>${scoring ? scoringHtml(scoring) : ''}</div>`;
}

const studentScoringHtml = (
  { at, by, scoring, withheld }: ArchivedStudentScoring,
  zone: string,
): string =>
  `<div><p><strong>${escape(by)}</strong> <span class="small">${sayTimeOfYear(at, zone)}${withheld ? ', withheld' : ''}</span></p>${scoringHtml(scoring)}</div>`;

/** What somebody said, with its formulas; they are MathML, as in pages. */
const saidHtml = (text: string): string =>
  piecesOf(text)
    .map((piece) => (piece.kind === 'words' ? paragraphs(piece.text) : formulaHtml(piece.tex)))
    .join('');

function threadHtml(
  { quote, on, stamp, comments }: ArchivedThread,
  zone: string,
  { pictureAt, fileAt }: Places,
): string {
  const withFile = (file: string | null) =>
    file === null ? '' : ` <a href="${href(fileAt(file))}">${escape(fileAt(file))}</a>`;
  const said = comments.map(
    ({ by, at, text, kind, file }) =>
      `<li>${kind === 'said' ? saidHtml(text) + withFile(file) : `<em>${escape(kind)}</em>`} <span class="small">${escape(by)}, ${sayTimeOfYear(at, zone)}</span></li>`,
  );
  const picture = stamp ? `<img src="${href(pictureAt(stamp))}" alt="" width="64">` : '';
  const tied = [quote && `“${escape(quote)}”`, escape(on)].filter(Boolean).join(' · ');
  return `<div>${picture}${tied ? `<p class="small">on ${tied}</p>` : ''}<ul class="plain">${said.join('')}</ul></div>`;
}

function proposalHtml(one: ArchivedProposal, zone: string): string {
  const { before, words, after } = sayProposal(one);
  const by = `${escape(one.by)}, ${sayTimeOfYear(one.at, zone)}`;
  const { became } = one;
  const then =
    became && became.state !== 'open'
      ? `; ${escape(sayState(became.state, became.by))}, ${sayTimeOfYear(became.at, zone)}`
      : '';
  return `<li>${escape(before)}<strong>${escape(words ?? '')}</strong>${escape(after)} <span class="small">${by}${then}</span></li>`;
}

const attachedHtml = ({ path, name, url, away }: AttachedFile): string => {
  const file = `<a href="${href(path.split('/').at(-1) ?? '')}">${escape(name)}</a>`;
  const link = url === null ? '' : ` <span class="small">as it stood behind ${escape(url)}</span>`;
  return `<li>${file}${link}${away ? ' <span class="small">removed</span>' : ''}</li>`;
};

const section = (title: string, parts: readonly string[]): string =>
  parts.length > 0 ? `<section><h2>${title}</h2>${parts.join('')}</section>` : '';

/** Where the files are that a page shows. */
interface Places {
  /** The `src` of a picture, by its digest. */
  pictureAt: (hash: string) => string;
  /** The name of a comment’s file, which lies beside the page. */
  fileAt: (id: string) => string;
}

/**
 * A copy, or a page without any of what belongs to copies, as a page of HTML.
 * @param zone of the school's clock
 */
export function archivedHtml(copy: ArchivedPage, zone: string, places: Places): string {
  const { pictureAt } = places;
  const record = copy.record.map(
    ({ at, says }) => `<li>${sayTimeOfYear(at, zone)}: ${escape(says)}</li>`,
  );
  return htmlPage(
    copy.title,
    [
      `<p class="about">${copy.about.map(escape).join(' · ')}</p><h1>${escape(copy.title)}</h1>`,
      copy.instructions ? `<p class="instructions">${paragraphs(copy.instructions)}</p>` : '',
      `<main>${pageHtml(copy.page, pictureAt)}</main>`,
      section(
        'Attached',
        copy.attached.length > 0 ? [`<ul>${copy.attached.map(attachedHtml).join('')}</ul>`] : [],
      ),
      section(
        'Feedback sheet',
        copy.scores.map((score) => scoreHtml(score, copy.most, zone)),
      ),
      section(
        'Given by each of two',
        copy.apart.map((score) => scoreHtml(score, copy.most, zone)),
      ),
      section(
        'Scored by students',
        copy.fromStudents.map((one) => studentScoringHtml(one, zone)),
      ),
      section(
        'Comments',
        copy.threads.map((thread) => threadHtml(thread, zone, places)),
      ),
      section(
        'Proposals',
        copy.proposals.length > 0
          ? [`<ul>${copy.proposals.map((one) => proposalHtml(one, zone)).join('')}</ul>`]
          : [],
      ),
      section(
        'Kept versions',
        copy.earlier.map(
          ({ says, at, page }) =>
            `<details><summary>${escape(says)}, ${sayTimeOfYear(at, zone)}</summary>${pageHtml(page, pictureAt)}</details>`,
        ),
      ),
      section(
        'Record',
        record.length > 0 ? [`<ul class="plain small">${record.join('')}</ul>`] : [],
      ),
    ].join('\n'),
  );
}
