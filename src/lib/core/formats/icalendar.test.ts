import ICAL from 'ical.js';
import { describe, expect, it } from 'vitest';
import { writeICalendar, type DueTime } from './icalendar';

const DUE = Date.parse('2026-10-26T11:40:00Z');
const time = (of: Partial<DueTime> = {}): DueTime => ({
  uid: 'a-b@uncia',
  title: 'Rule of twelfths; “ebb, flow”',
  class: '8C Coast & Chart',
  classId: 'c',
  due: DUE,
  handedOut: DUE - 86_400_000,
  changed: DUE - 80_000_000,
  to: '/work/x',
  instructions: 'Two lines,\nreally.',
  ...of,
});
// Parsed back by another library; properties by RFC 5545 and RFC 7986.
const parse = (text: string) => {
  const calendar = new ICAL.Component(ICAL.parse(text));
  return { calendar, events: calendar.getAllSubcomponents('vevent') };
};
const value = (event: ICAL.Component | undefined, name: string) =>
  event?.getFirstPropertyValue(name);

describe('a calendar of due times', () => {
  it('is read back as it was meant, whatever the title', () => {
    const text = writeICalendar('Ada’s due times', [time()], 'http://school', DUE);
    const { calendar, events } = parse(text);
    expect(calendar.getFirstPropertyValue('version')).toBe('2.0');
    expect(String(calendar.getFirstPropertyValue('prodid'))).toContain('Uncia');
    const event = new ICAL.Event(events[0] as ICAL.Component);
    expect(event.uid).toBe('a-b@uncia');
    expect(event.summary).toBe('8C Coast & Chart: Rule of twelfths; “ebb, flow” due');
    expect(event.description).toBe('Two lines,\nreally.');
    expect(event.startDate.toJSDate().getTime()).toBe(DUE);
    expect(String(value(events[0], 'url'))).toBe('http://school/work/x');
    expect(value(events[0], 'categories')).toBe('8C Coast & Chart');
    expect(value(events[0], 'color')).toMatch(/^[a-z]+$/);
    expect(value(events[0], 'status')).toBe('CONFIRMED');
  });

  it('has lines of at most 75 octets that end as they must', () => {
    const text = writeICalendar('x', [time({ title: 'ß'.repeat(200) })], 'http://school', DUE);
    // RFC 5545, 3.1.
    for (const line of text.split('\r\n')) {
      expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
      expect(line).not.toContain('\n');
    }
    expect(value(parse(text).events[0], 'summary')).toContain('ß'.repeat(200));
  });

  it('raises the sequence with each change', () => {
    const of = (more: Partial<DueTime>) =>
      parse(writeICalendar('x', [time(more)], 'http://school', DUE)).events[0];
    const before = Number(value(of({}), 'sequence'));
    const after = of({ changed: DUE - 70_000_000 });
    expect(Number(value(after, 'sequence'))).toBeGreaterThan(before);
    expect(value(after, 'status')).toBe('CONFIRMED');
  });

  it('keeps the instant over a change of clock', () => {
    // The tz database: Europe/Dublin goes back on 25 October 2026 at 02:00.
    for (const at of ['2026-10-24T10:40:00Z', '2026-10-26T11:40:00Z'])
      expect(
        new ICAL.Event(
          parse(writeICalendar('x', [time({ due: Date.parse(at) })], '', DUE))
            .events[0] as ICAL.Component,
        ).startDate
          .toJSDate()
          .toISOString(),
      ).toBe(at.replace('Z', '.000Z'));
  });
});
