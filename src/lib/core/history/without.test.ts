import fc from 'fast-check';
import { Transform } from 'prosemirror-transform';
import { describe, expect, it } from 'vitest';
import { schema } from '../page/schema';
import { without } from './without';

const { nodes } = schema;
const start = nodes.doc.create(null, [
  nodes.paragraph.create(null, schema.text('The tide turns.')),
  nodes.paragraph.create(null, schema.text('So do we.')),
]);

describe('a page without somebody’s steps', () => {
  it('keeps what others wrote before, between and after, in its place', () => {
    const all = new Transform(start)
      .insert(1, schema.text('Look: '))
      .insert(7, schema.text('STUDENT '))
      .insert(1, schema.text('Oh. '))
      .delete(12, 15);
    const unwanted = [false, true, false, true];
    const steps = all.steps.map((step, i) => ({ step, unwanted: unwanted[i] ?? false }));
    expect(without(start, steps).textContent).toBe('Oh. Look: The tide turns.So do we.');
  });

  it('holds none of its words, whoever changed them afterwards', () => {
    const all = new Transform(start)
      .insert(1, schema.text('STUDENT'))
      .insert(4, schema.text('x'))
      .delete(1, 9);
    const steps = all.steps.map((step, i) => ({ step, unwanted: i === 0 }));
    expect(without(start, steps).textContent).not.toMatch(/[STUDEN]{2}/);
  });

  it('never holds an unwanted word, and always holds the whole of the others’ when nobody deletes', () => {
    const edit = fc.record({
      student: fc.boolean(),
      at: fc.double({ min: 0, max: 1, noNaN: true }),
      gone: fc.nat(4),
    });
    fc.assert(
      fc.property(fc.array(edit, { maxLength: 40 }), fc.boolean(), (edits, deletes) => {
        const all = new Transform(start);
        const steps: { step: (typeof all.steps)[number]; unwanted: boolean }[] = [];
        let staff = 0;
        for (const { student, at, gone } of edits) {
          const before = all.steps.length;
          const places: number[] = [];
          all.doc.descendants((node, pos) => {
            if (node.isTextblock)
              for (let i = 0; i <= node.content.size; i++) places.push(pos + 1 + i);
          });
          const place = places[Math.floor(at * (places.length - 1))] ?? 1;
          if (deletes && gone)
            all.delete(place, Math.min(place + gone, all.doc.resolve(place).end()));
          else {
            all.insert(place, schema.text(student ? 'ẞẞẞ' : 'þ'));
            if (!student) staff++;
          }
          for (const step of all.steps.slice(before)) steps.push({ step, unwanted: student });
        }
        const page = without(start, steps);
        page.check();
        expect(page.textContent).not.toContain('ẞ');
        if (!deletes) expect(page.textContent.match(/þ/g)?.length ?? 0).toBe(staff);
      }),
      { numRuns: 200 },
    );
  });
});
