import { setTimeout as pause } from 'node:timers/promises';
import { Node } from 'prosemirror-model';
import { EditorState, TextSelection } from 'prosemirror-state';
import { Step } from 'prosemirror-transform';
import type { NewSteps, WrittenNews } from '../../src/lib/core/live/news';
import { receive, unsentIn, unsentSteps, versionOf } from '../../src/lib/core/history/unsent-steps';
import type { PageNews } from '../../src/lib/core/page/protocol';
import { schema } from '../../src/lib/core/page/schema';
import type { App } from '../../src/lib/server/app';
import { newPage } from '../../tests/support/grants';
import type { TestSchool } from '../../tests/support/school';
import type { Visitor } from '../../tests/support/visitor';
import { figure, quantile } from './figure';
import { listen } from './listen';

/** What a session in a browser waits before it sends, where others write, too. */
const GATHER = 100;
/** Three letters a second: a student who knows what to write. In milliseconds. */
const KEY = 333;

/** One of many at a page: what a session in a browser does, without the browser. */
class Writer {
  state: EditorState;
  private taken = 0;
  private busy = false;
  private heard = 0;
  private told: NewSteps[] = [];
  private timer: NodeJS.Timeout | null = null;
  /** When each of its letters was typed, by their numbers. */
  readonly typed = new Map<number, number>();
  /** How long its letters took to each of the others. */
  readonly times: number[] = [];
  aside = 0;

  constructor(
    private readonly page: string,
    private readonly visitor: Visitor,
    readonly client: string,
    start: { doc: object; version: number },
    private readonly others: ReadonlyMap<string, Writer>,
  ) {
    const doc = Node.fromJSON(schema, start.doc);
    this.state = EditorState.create({ doc, plugins: [unsentSteps(start.version)] });
  }

  goTo(place: number) {
    this.state = this.state.apply(
      this.state.tr.setSelection(TextSelection.create(this.state.doc, place)),
    );
  }

  type(letter: string) {
    this.typed.set(this.taken + unsentIn(this.state).length + 1, performance.now());
    this.state = this.state.apply(this.state.tr.insertText(letter));
    this.timer ??= setTimeout(() => {
      this.timer = null;
      void this.talk();
    }, GATHER);
  }

  hear({ version, steps }: WrittenNews) {
    if (steps) this.told.push(steps);
    if (!this.busy) this.takeTold();
    this.heard = Math.max(this.heard, version);
    void this.talk();
  }

  private takeTold() {
    for (const news of this.told.splice(0)) {
      const reached = versionOf(this.state);
      const fresh = news.steps.slice(Math.max(0, reached - news.base));
      const isNext = news.base <= reached && fresh.length > 0;
      if (isNext && !fresh.some(({ client }) => client === this.client)) this.take(news);
    }
  }

  get isDone(): boolean {
    return !this.busy && this.timer === null && unsentIn(this.state).length === 0;
  }

  async talk(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    const way = `/pages/${this.page}/steps`;
    for (;;) {
      const unsent = unsentIn(this.state);
      const base = versionOf(this.state);
      if (unsent.length === 0 && this.heard <= base) break;
      const steps = unsent.map(({ step, follows }) => ({ ...step.toJSON(), follows }));
      const answer =
        unsent.length > 0
          ? await this.visitor.send(way, {
              base,
              client: this.client,
              first: this.taken + 1,
              lost: [],
              steps,
            })
          : await this.visitor.fetch(`${way}?since=${base}`);
      if (!answer.ok) throw new Error(`${answer.status} ${await answer.text()}`);
      const news: PageNews = await answer.json();
      this.taken += unsent.length;
      this.aside += news.setAside.length;
      this.take(news);
      this.takeTold();
    }
    this.busy = false;
  }

  private take(news: NewSteps) {
    const now = performance.now();
    let run: Step[] = [];
    let isOwn = false;
    const flush = () => {
      if (run.length > 0)
        this.state = this.state.apply(receive(this.state, run, isOwn ? run.length : 0));
      run = [];
    };
    for (const { step, client, no } of news.steps.slice(versionOf(this.state) - news.base)) {
      const own = client === this.client;
      if (own !== isOwn) flush();
      isOwn = own;
      run.push(Step.fromJSON(schema, step));
      const writer = own ? undefined : this.others.get(client);
      const at = writer?.typed.get(no);
      if (writer && at !== undefined) writer.times.push(now - at);
    }
    flush();
  }
}

/** Forty at one page: how long a letter takes to the others' screens, and whether all end at the same page. */
export async function writers40(
  app: App,
  school: TestSchool,
  visitors: readonly Visitor[],
  seconds: number,
) {
  const lines = visitors.map((_, n) => schema.node('paragraph', null, schema.text(`${n}: `)));
  const page = await newPage(
    app.db,
    {
      at: new Date(),
      title: 'All',
      in: { kind: 'class page', class: school.class, area: 'worktable' },
    },
    schema.node('doc', null, lines),
  );
  const writers = new Map<string, Writer>();
  const ends: (() => void)[] = [];
  for (const [n, visitor] of visitors.entries()) {
    const start = await (await visitor.fetch(`/pages/${page}`)).json();
    const client = `bench-writer-${n}`;
    const writer = new Writer(page, visitor, client, start, writers);
    writers.set(client, writer);
    // Every fourth writes at the very same place as others do.
    const line = n % 4 === 0 ? 0 : n;
    let place = 0;
    for (let before = 0; before < line; before++) place += writer.state.doc.child(before).nodeSize;
    writer.goTo(place + writer.state.doc.child(line).nodeSize - 1);
    ends.push(await listen(visitor, (news) => news.page === page && writer.hear(news)));
  }
  const all = [...writers.values()];
  const end = performance.now() + seconds * 1000;
  let letters = 0;
  await Promise.all(
    all.map(async (writer, n) => {
      await pause((KEY * n) / all.length);
      while (performance.now() < end) {
        writer.type(String.fromCharCode(97 + (letters++ % 26)));
        await pause(KEY * (0.5 + ((letters * 7) % 10) / 10));
      }
    }),
  );
  for (const until = Date.now() + 30_000; Date.now() < until; await pause(100)) {
    const newest = Math.max(...all.map(({ state }) => versionOf(state)));
    if (all.every((writer) => writer.isDone && versionOf(writer.state) === newest)) break;
  }
  for (const stop of ends) stop();
  const [first] = all;
  const differ = all.filter(({ state }) => first && !state.doc.eq(first.state.doc)).length;
  const aside = all.reduce((sum, writer) => sum + writer.aside, 0);
  const given = visitors.reduce((sum, _, n) => sum + `${n}: `.length, 0);
  const missing = letters - aside - ((first?.state.doc.textContent.length ?? 0) - given);
  if (differ > 0 || missing !== 0)
    throw new Error(`${differ} writers have another page, and ${missing} letters are missing`);
  const p95 = all.map(({ times }) => quantile(times, 0.95));
  figure(
    'writers.40',
    quantile(
      all.flatMap(({ times }) => times),
      0.95,
    ),
    'ms',
  );
  figure('writers.40.slowest', Math.max(...p95), 'ms', quantile(p95, 0.5));
}
