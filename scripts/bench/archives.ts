import { execFileSync } from 'node:child_process';
import { rmSync } from 'node:fs';
import { dirname } from 'node:path';
import { Fragment, Slice, type Node } from 'prosemirror-model';
import { ReplaceStep } from 'prosemirror-transform';
import { schema } from '../../src/lib/core/page/schema';
import type { App } from '../../src/lib/server/app';
import { makeArchive, unpack } from '../../tests/support/archives';
import type { TestSchool } from '../../tests/support/school';
import { figure, quantile, timed } from './figure';
import { makeClasses, makeYear } from './views';

const STUDENTS = 60;
const ASSIGNMENTS = 40;
/** Of each copy: words that came one after the other. */
const STEPS = 30;
const WORDS = 'The tide comes in by the rule of twelfths: one, two, three, three, two, one. ';
const ROUNDS = 3;

/** Everybody writes in every copy. */
async function write(app: App, klass: string, place: number): Promise<void> {
  const copies = await app.db
    .selectFrom('page')
    .select(['id', 'student_id'])
    .where('class_id', '=', klass)
    .where('kind', '=', 'copy')
    .execute();
  await app.db
    .updateTable('page')
    .set({ with_teacher: false })
    .where('class_id', '=', klass)
    .execute();
  for (let first = 0; first < copies.length; first += 100)
    await Promise.all(
      copies.slice(first, first + 100).map(({ id, student_id }) => {
        const steps = Array.from({ length: STEPS }, (_, n) => {
          const slice = new Slice(Fragment.from(schema.text(`${n} ${WORDS}`)), 0, 0);
          return new ReplaceStep(place, place, slice).toJSON();
        });
        const message = { base: 0, client: `bench-${id}`, first: 1, lost: [], steps };
        return app.pages.append(id, { id: student_id ?? '', owner: true }, message);
      }),
    );
}

/** The archive of a class of sixty with forty assignments, beside `tar` and `sha256sum` of the same files. */
export async function archive2400(
  app: App,
  url: string,
  school: TestSchool,
  page: Node,
  place: number,
): Promise<void> {
  const [klass = ''] = await makeClasses(app, school, 1, STUDENTS);
  await makeYear(app, school, page, [klass], ASSIGNMENTS, 0);
  await write(app, klass, place);
  const of = { class: klass, school: school.id, by: school.teacher };
  const zip = await makeArchive(app, of);
  const args = [String(ROUNDS), klass, String(school.id), school.teacher];
  const measured = execFileSync('npx', ['tsx', 'scripts/bench/archive-rounds.ts', ...args], {
    env: { ...process.env, DATABASE_URL: url },
    encoding: 'utf8',
  });
  const { times, memory }: { times: number[]; memory: number } = JSON.parse(measured);
  const bag = await unpack(zip);
  const bare: number[] = [];
  for (let round = 0; round < ROUNDS; round++)
    bare.push(
      await timed(async () => {
        execFileSync('tar', ['-cf', '../bench.tar', '.'], { cwd: bag });
        execFileSync('sha256sum', ['--check', '--quiet', 'manifest-sha256.txt'], { cwd: bag });
      }),
    );
  rmSync(dirname(bag), { recursive: true, force: true });
  figure('archive.2400', quantile(times, 0.5), 'ms', quantile(bare, 0.5));
  figure('archive.2400.memory', memory / 1e6, 'MB');
  figure('archive.2400.size', zip.length / 1e6, 'MB');
}
