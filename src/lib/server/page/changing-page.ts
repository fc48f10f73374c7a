import { setImmediate as turn } from 'node:timers/promises';
import type { Node } from 'prosemirror-model';
import { Step } from 'prosemirror-transform';
import {
  bringUpToDate,
  StepDoesNotFit,
  type NumberedStep,
  type UpToDate,
} from '$core/history/rebase';
import { authorshipOf } from '$core/history/carried';
import type { Range } from '$core/history/compare';
import { pagePutBackKeeping } from '$core/history/put-back-since';
import { pagePutBack, PUTS_BACK, stepBetween } from '$core/history/put-back';
import { textOfStep } from '$core/history/set-aside';
import { PAUSE } from '$core/history/sittings';
import { PASTED } from '$core/history/work-line';
import { guardedTextKept } from '$core/page/guard';
import { firstLevel, type Level } from '$core/headcount/level';
import { amountOn, levelAfter } from '$core/headcount/level-of-steps';
import { countWords, doneMask, partsOf, textOf, type Part } from '$core/page/parts';
import type { SetAsideText, StepsMessage } from '$core/page/protocol';
import { schema } from '$core/page/schema';
import type { PageRow } from '../db/schema';
import { Threads } from '../threads/threads';
import type { HeldPage, HeldStep } from './held-page';
import { refuseTooLarge } from './refuse-too-large';
import { Refusal } from './refusal';
import { refuseSealed } from './sealed';

/** A row of the log. */
export interface StepRow {
  page_id: string;
  version: number;
  school_id: number;
  author_id: string;
  at: Date;
  client: string;
  client_no: number;
  body: object;
}

export interface SetAsideRow extends Omit<StepRow, 'version'> {
  base_version: number;
  words: string;
}

/** What is kept of a page beside its log, for lists. */
interface KeptRow {
  id: string;
  version: number;
  written_at: Date | null;
  done_mask: string;
  words: number;
  level: Level | null;
}

/** Who changes a page, as the access table found it. */
export interface Writer {
  id: string;
  /** Whether this is the student whose copy it is, rather than one of the staff. */
  owner: boolean;
}

export const LOCKED_COLUMNS = [
  'id',
  'kind',
  'school_id',
  'version',
  'source_id',
  'source_version',
  'guarded',
  'with_teacher',
  'sealed',
  'class_id',
  'course_id',
  'student_id',
  'area',
  'threads',
  'written_at',
  'level',
] as const;
type LockedPage = Pick<PageRow, (typeof LOCKED_COLUMNS)[number]> & { sharers: string[] };

/** Steps times blocks, or steps times steps, that one request may ask for: well under a second of work. */
const MOST_WORK = 40_000_000;

/** After so many milliseconds of work for one request others have their turn. */
const TURN = 20;

const TOO_MUCH = 'This is too much at once. Your words stay here; please add it in smaller pieces.';
const tooMuch = () => new Refusal(413, TOO_MUCH);

/** A page that is put back: as it stood, or a passage of it. */
export interface WhatComesBack {
  then: HeldPage;
  passage: Range | null;
  /** Whether what was written since stays, below what comes back. */
  keepsSince: boolean;
}

/** A page in the middle of one transaction: requests are taken in one after the other, then all is written at once. */
export class ChangingPage {
  /** Its version when the transaction began. */
  readonly from: number;
  readonly steps: StepRow[] = [];
  readonly setAside: SetAsideRow[] = [];
  readonly snapshots: HeldPage[] = [];
  private written: Date | null;
  private readonly before: Node;
  private keptNow: KeptRow | null = null;

  constructor(
    readonly row: LockedPage,
    public held: HeldPage,
    private readonly at: Date,
  ) {
    this.from = held.version;
    this.before = held.doc;
    this.written = row.written_at;
  }

  get moved(): boolean {
    return this.held.version > this.from;
  }

  /** @throws Refusal when this writer may not write on version `base` now */
  admit(writer: Writer, base: number): void {
    refuseSealed(this.row);
    if (writer.owner && this.row.with_teacher)
      throw new Refusal(
        423,
        'This copy is handed in, so it cannot be changed now. Take it back to go on writing.',
      );
    if (base > this.held.version)
      throw new Refusal(
        409,
        'This page is newer than the one that is kept. Your words stay here; please open it again.',
      );
  }

  /**
   * Brings one request up to date, checks it and puts it onto the page: all of it or nothing.
   * @param last the client's last number that was taken in before
   * @param news what happened since `message.base`
   * @returns the words of the request that found no place
   * @throws Refusal with the sentence for its person
   */
  async applyRequest(
    writer: Writer,
    message: StepsMessage,
    last: number,
    news: readonly HeldStep[],
  ): Promise<SetAsideText[]> {
    const { client } = message;
    if (message.steps.length * this.held.doc.childCount > MOST_WORK) throw tooMuch();
    const sent = numberedSteps(message);
    const lost = sent.slice(0, message.lost.length);
    const mine = sent.slice(message.lost.length);
    // Each step is moved over all of its client's own and all that came since.
    if (news.length > 0 && mine.length * (2 * mine.length + news.length) > MOST_WORK)
      throw tooMuch();
    const upToDate = await bringUpToDateInBounds(
      news[0]?.before ?? this.held.doc,
      mine,
      news,
      client,
    );
    const isNew = ({ no }: NumberedStep) => no > last;
    await this.append(writer, client, upToDate.fresh.filter(isNew));
    const aside = [...lost, ...upToDate.setAside].filter(isNew).map(({ no, step }) => ({
      page_id: this.row.id,
      client,
      client_no: no,
      school_id: this.row.school_id,
      author_id: writer.id,
      at: this.at,
      base_version: message.base,
      body: step.toJSON() as object,
      words: textOfStep(step),
    }));
    this.setAside.push(...aside);
    return aside
      .filter(({ words }) => words !== '')
      .map(({ client_no, words }) => ({ client, no: client_no, words, at: this.at.getTime() }));
  }

  /**
   * Puts the page back as it stood, or a passage of it, with one step; who had written what, has written it again.
   * @returns whether that changed anything
   * @throws Refusal with the sentence for its person
   */
  async putBack(
    writer: Writer,
    client: string,
    { then, passage, keepsSince }: WhatComesBack,
  ): Promise<boolean> {
    const now = this.held;
    const { guarded } = this.row;
    const target = keepsSince
      ? pagePutBackKeeping({ doc: now.doc, authorship: now.authorship() }, then, guarded)
      : pagePutBack(now.doc, then.doc, { guarded, passage });
    const step = stepBetween(now.doc, target);
    if (!step) return false;
    await this.append(writer, client, [{ no: 1, step }]);
    this.steps.push(
      ...this.steps.splice(-1).map((row) => ({
        ...row,
        body: { ...row.body, [PUTS_BACK]: then.version },
      })),
    );
    const authored = (held: HeldPage) => ({ doc: held.doc, authorship: held.authorship() });
    this.held = this.held.snapshotOf(
      target.eq(then.doc) ? then.authorship() : authorshipOf(target, authored(now), authored(then)),
    );
    const { version } = this.held;
    const others = this.snapshots.filter((one) => one.version !== version);
    this.snapshots.splice(0, this.snapshots.length, ...others, this.held);
    return true;
  }

  /**
   * Does steps in this writer's name that stay their author's.
   * @param steps on the page as it is now, each as the ones before it leave it
   */
  async take(writer: Writer, client: string, author: string, steps: readonly Step[]) {
    const first = this.steps.length + 1;
    const numbered = steps.map((step, index) => ({ no: first + index, step }));
    await this.append(writer, client, numbered, author);
  }

  private async append(
    writer: Writer,
    client: string,
    fresh: readonly NumberedStep[],
    author = writer.id,
  ) {
    if (fresh.length === 0) return;
    const { row } = this;
    const at = this.at.getTime();
    const snapshots: HeldPage[] = [];
    const snapshotAfter = (page: HeldPage) => {
      snapshots.push(page);
      return page.snapshotAfter();
    };
    const steps: StepRow[] = [];
    const pauseEnded = this.held.lastAt > 0 && at - this.held.lastAt > PAUSE;
    let held = pauseEnded && this.held.hasNews ? snapshotAfter(this.held) : this.held;
    const before = this.held.doc;
    let begun = performance.now();
    for (const { no, step, pasted } of fresh) {
      if (performance.now() - begun > TURN) {
        await turn();
        begun = performance.now();
      }
      held = fitting(() => held.with(step, client, no, author, at));
      steps.push({
        page_id: row.id,
        version: held.version,
        school_id: row.school_id,
        author_id: author,
        at: this.at,
        client,
        client_no: no,
        body: { ...(step.toJSON() as object), ...(pasted && { [PASTED]: true }) },
      });
      if (held.wantsSnapshot) held = snapshotAfter(held);
    }
    if (writer.owner && row.guarded && !guardedTextKept(before, held.doc))
      throw new Refusal(
        422,
        'The page’s own text is guarded: answers go in the places for answers.',
      );
    checkPage(held, before);
    this.held = held;
    this.steps.push(...steps);
    this.snapshots.push(...snapshots);
    if (writer.owner) this.written = this.at;
  }

  /** What is kept for speed beside the log; the log alone decides. */
  kept(): KeptRow {
    const { doc, version } = this.held;
    // It is asked for again when it is published.
    if (this.keptNow?.version === version) return this.keptNow;
    const parts = partsOf(doc);
    return (this.keptNow = {
      id: this.row.id,
      version,
      written_at: this.written,
      done_mask: doneMask(parts),
      words: countWords(textOf(doc)),
      level: this.row.kind === 'copy' ? this.levelNow(parts) : null,
    });
  }

  private levelNow(parts: readonly Part[]): Level {
    const { from, before, row, at, held } = this;
    const known = row.level ?? firstLevel({ version: from, ...amountOn(before) });
    return levelAfter(known, {
      before,
      after: held.doc,
      bodies: this.steps.map(({ body }) => body),
      at: at.getTime(),
      version: held.version,
      parts,
    });
  }
}

/** Steps times steps that are moved over each other while others wait; what is more goes into a thread. */
const LITTLE_WORK = 1_000_000;
const rebasing = new Threads(1, TOO_MUCH);

async function bringUpToDateInBounds(
  page: Node,
  mine: readonly NumberedStep[],
  news: readonly HeldStep[],
  client: string,
): Promise<UpToDate> {
  if (mine.length * (2 * mine.length + news.length) <= LITTLE_WORK || news.length === 0)
    return fitting(() => bringUpToDate(page, mine, news, client));
  const json = ({ step }: { step: Step }) => step.toJSON() as object;
  const { fresh, setAside } = await rebasing.run({
    kind: 'rebase',
    page: page.toJSON() as object,
    mine: mine.map(({ no, step, follows }) => ({ no, follows, step: json({ step }) })),
    news: news.map(({ no, client, step }) => ({ no, client, step: json({ step }) })),
    client,
  });
  const aside = new Set(setAside);
  const pasted = new Set(mine.filter((one) => one.pasted).map(({ no }) => no));
  return {
    fresh: fresh.map((one) => ({
      ...one,
      step: Step.fromJSON(schema, one.step),
      pasted: pasted.has(one.no),
    })),
    setAside: mine.filter(({ no }) => aside.has(no)),
  };
}

/** What a message holds, each with its client's number: first what it lost, then what it changes. */
function numberedSteps({ first, lost, steps }: StepsMessage): NumberedStep[] {
  return [...lost, ...steps].map((json, index) => {
    try {
      return {
        no: first + index,
        step: Step.fromJSON(schema, json),
        follows: json.follows === true,
        pasted: json.pasted === true,
      };
    } catch {
      throw new Refusal(422, 'This change is not one that a page can take.');
    }
  });
}

function fitting<T>(change: () => T): T {
  try {
    return change();
  } catch (error) {
    if (error instanceof StepDoesNotFit)
      throw new Refusal(422, 'This change does not fit the page.');
    throw error;
  }
}

/** @throws Refusal when the page would not be one of the schema, or larger than pages are */
function checkPage(held: HeldPage, before: Node) {
  refuseTooLarge(held.doc, before);
  try {
    held.doc.check();
  } catch {
    throw new Refusal(422, 'This change is not one that a page can take.');
  }
}
