import { sql } from 'kysely';
import type { Tx } from '../db/transaction';
import type { PageMemory } from '../page/page-memory';
import { countWords, doneMask, partsOf, textOf } from '$core/page/parts';
import { HeldPage } from '../page/held-page';
import { readStaffParts } from './staff-part';
import { sharePictures } from '../file/files';
import { writeSnapshots } from '../page/write-changes';
import type { PagePlace } from './begin-page';

export interface CopySpec {
  school: number;
  /** The pages to copy, in order. */
  pages: readonly string[];
  in: PagePlace;
  unit: string | null;
  at: Date;
  /** The building of a class this is part of: each page is copied once in it, however often it is asked for. */
  build?: string | null;
  /** Whether the copies adapt their pages. */
  adapted?: boolean;
}

/**
 * Copies pages with their answer keys, not their history: each begins anew from the newest version, without what students
 * wrote in it. Pictures are named by
 * their contents, so their bytes are not copied.
 * @returns how many were made
 */
export async function copyPages(memory: PageMemory, tx: Tx, spec: CopySpec): Promise<number> {
  const { in: place, build = null, adapted = false } = spec;
  const holder =
    'course' in place
      ? { course: place.course, class: null }
      : { course: null, class: place.class };
  const sources = new Map<string, HeldPage>();
  for (const id of spec.pages) sources.set(id, await memory.open(tx, id));
  const versions = spec.pages.map((id) => sources.get(id)?.version ?? 0);
  const made = await sql<{ id: string; from_id: string }>`
    insert into page (school_id, kind, title, course_id, class_id, area, unit_id, place, from_id, from_version,
      adapted, build_id, made_at, done_mask, words)
    select ${spec.school}, ${
      place.kind === 'class page'
        ? sql`'class page'`
        : sql`
        case when page.kind = 'class page' then ${place.kind} else page.kind end`
    },
      case when ${adapted} then page.title || ', adapted' else page.title end,
      ${holder.course}::uuid, ${holder.class}::uuid, ${'area' in place ? place.area : null}::text,
      ${spec.unit}::uuid, wanted.place + coalesce((
        select max(last.place) + 1 from page last where last.unit_id is not distinct from ${spec.unit}::uuid
          and (last.course_id = ${holder.course}::uuid or last.class_id = ${holder.class}::uuid)), 0),
      page.id, wanted.version, ${adapted}, ${build}::uuid, ${spec.at}::timestamptz, page.done_mask, page.words
    from unnest(${spec.pages}::uuid[], ${versions}::int[]) with ordinality as wanted(id, version, place)
    join page on page.id = wanted.id
    on conflict (build_id, from_id) do nothing
    returning id, from_id`.execute(tx);
  const parts = await readStaffParts(tx, spec.pages);
  for (const { id, from_id } of made.rows) {
    const source = sources.get(from_id);
    // A page that stands as a snapshot is copied below; nothing is written to those that are copied.
    const page = parts.get(from_id) ?? (source?.hasNews ? source.doc : null);
    if (!page) continue;
    const held = HeldPage.at(0, page, []);
    await writeSnapshots(tx, spec.at, [{ id, school: spec.school, held }]);
    await tx
      .updateTable('page')
      .set({ done_mask: doneMask(partsOf(page)), words: countWords(textOf(page)) })
      .where('id', '=', id)
      .execute();
  }
  const pairs = JSON.stringify(made.rows);
  await sql`insert into snapshot (page_id, version, school_id, at, doc, authorship, parts)
    select made.id, 0, snapshot.school_id, ${spec.at}::timestamptz, snapshot.doc, '[]'::jsonb, snapshot.parts
    from jsonb_to_recordset(${pairs}::jsonb) as made(id uuid, from_id uuid)
    join page on page.id = made.id
    join snapshot on snapshot.page_id = made.from_id and snapshot.version = page.from_version
    on conflict do nothing`.execute(tx);
  await sql`insert into answer_key (page_id, part_id, school_id, body)
    select made.id, answer_key.part_id, answer_key.school_id, answer_key.body
    from jsonb_to_recordset(${pairs}::jsonb) as made(id uuid, from_id uuid)
    join answer_key on answer_key.page_id = made.from_id`.execute(tx);
  await sharePictures(
    tx,
    made.rows.map(({ id, from_id }) => ({ id, from: from_id })),
  );
  return made.rows.length;
}
