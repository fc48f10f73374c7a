import { checkParts, type Checked } from '$core/marking/check-copy';
import type { Keys } from '$core/marking/key-changes';
import type { CheckChange } from '$core/marking/check-change';
import { givenIn, sumParts } from '$core/marking/sum-parts';
import { stateOf } from '$core/copy/state';
import type { HandOutSpec } from '$core/handout/spec';
import type { Grant } from '../access/grant';
import { inTransaction, type Tx } from '../db/transaction';
import { publishToClasses } from '../live/listeners';
import type { Connection } from '../page/page-store';
import { readNames } from '../school/names';
import type { Using } from '../services';
import { addChecked } from './add-checked';
import { readMarkedClasses, readScoredCopies, type ScoredCopy } from './scored-copies';

/** Keys as they would be, by the page they belong to. */
export type ProposedKeys = ReadonlyMap<string, Keys>;

const readMarking = (db: Connection, assignment: string): Promise<HandOutSpec['marking']> =>
  db
    .selectFrom('assignment')
    .select('marking')
    .where('id', '=', assignment)
    .executeTakeFirstOrThrow()
    .then(({ marking }) => marking);

/**
 * What is checked again: copies that were checked before, and of an assignment that marks itself those that nobody scored. What
 * somebody gave a part stays; what was scored otherwise is not touched.
 */
function changesIn(
  copies: readonly ScoredCopy[],
  marking: HandOutSpec['marking'],
  proposed: ProposedKeys,
): { one: ScoredCopy; next: Checked }[] {
  return copies.flatMap((one) => {
    if (one.otherwise || (!one.checked && marking === 'by hand')) return [];
    const keys = proposed.get(one.keyPage) ?? one.keys;
    const next = checkParts(one.parts, keys, givenIn(one.checked));
    return next && JSON.stringify(next) !== JSON.stringify(one.checked) ? [{ one, next }] : [];
  });
}

type Marks = Pick<Grant<'mark its copies'>, 'thing' | 'person'>;

/** Which copies, of all classes that somebody marks, would come to something else. Nothing is changed. */
export async function previewCheckAgain(
  app: Using<'db'>,
  grant: Marks,
  proposed: ProposedKeys = new Map(),
): Promise<CheckChange[]> {
  const classes = await readMarkedClasses(app.db, grant);
  const { id } = grant.thing;
  const copies = await readScoredCopies(
    app.db,
    id,
    classes.map((one) => one.id),
    grant.person.id,
  );
  const changes = changesIn(copies, await readMarking(app.db, id), proposed);
  const names = await readNames(
    app.db,
    changes.flatMap(({ one }) => one.copy.members),
  );
  return changes
    .map(({ one: { copy, checked }, next }) => ({
      copy: copy.id,
      class: classes.find((one) => one.id === copy.class)?.name ?? '',
      names: copy.members.map((id) => names[id] ?? ''),
      was: checked && sumParts(checked),
      now: sumParts(next),
      isBack: stateOf(copy.facts) === 'handed back',
    }))
    .filter(
      ({ was, now }) =>
        was?.points !== now.points || was.most !== now.most || was.left !== now.left,
    );
}

/**
 * Checks copies again, with the keys as they are now. Their students hear of it when the copies are handed back again.
 * @returns how many came to something else
 */
export async function checkAgain(app: Using<'db' | 'news'>, grant: Marks): Promise<number> {
  const classes = (await readMarkedClasses(app.db, grant)).map(({ id }) => id);
  const changed = await inTransaction(app.db, (tx) => checkAgainIn(tx, grant, classes));
  publishToClasses(app, [...changed.classes]);
  return changed.count;
}

export async function checkAgainIn(
  tx: Tx,
  { thing, person }: Marks,
  classes: readonly string[],
): Promise<{ count: number; classes: Set<string> }> {
  await lockCopies(tx, thing.id, classes);
  const copies = await readScoredCopies(tx, thing.id, classes, person.id);
  const changes = changesIn(copies, await readMarking(tx, thing.id), new Map());
  await addChecked(
    tx,
    person.id,
    changes.map(({ one, next }) => ({ page: one.page, checked: next })),
  );
  return {
    count: changes.length,
    classes: new Set(changes.map(({ one }) => one.copy.class)),
  };
}

/** Held first: how they stand is read when nobody can hand in, take back or score any more. */
async function lockCopies(tx: Tx, assignment: string, classes: readonly string[]) {
  await tx
    .selectFrom('page')
    .select('id')
    .where('assignment_id', '=', assignment)
    .where('class_id', 'in', [...classes])
    .where('kind', '=', 'copy')
    .where('sealed', '=', false)
    .orderBy('id')
    .forUpdate()
    .execute();
}
