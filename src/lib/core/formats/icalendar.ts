import { ICalCalendar, ICalCalendarMethod, ICalEventStatus } from 'ical-generator';

/** Something that is due for one person. */
export interface DueTime {
  /** The same for ever, over all changes. */
  uid: string;
  title: string;
  /** "8C Coast & Chart". */
  class: string;
  classId: string;
  /** Epoch milliseconds. */
  due: number;
  handedOut: number;
  changed: number;
  /** From the root of Uncia. */
  to: string;
  instructions: string;
}

/** Colours of classes, by the names of CSS (RFC 7986, 5.9). A class keeps its own. */
const COLORS = [
  ...['teal', 'steelblue', 'darkgoldenrod', 'sienna', 'mediumorchid', 'olivedrab', 'cadetblue'],
  ...['indianred', 'slategray', 'darkcyan', 'peru', 'plum'],
];
export function colorOf(classId: string): string {
  const sum = [...classId].reduce((total, sign) => (total * 31 + sign.charCodeAt(0)) % 9973, 7);
  return COLORS[sum % COLORS.length] ?? 'teal';
}

/** The library writes properties of its own list, and those that begin with X: the colour is renamed in the end. */
const COLOR_LATER = 'X-COLOR';

/**
 * A person's due times as an iCalendar stream (RFC 5545; NAME, COLOR and REFRESH-INTERVAL of RFC 7986). An event keeps its
 * UID; each change raises its SEQUENCE, so that calendars follow.
 * @param origin where Uncia is, for the links back
 * @param now epoch milliseconds
 */
export function writeICalendar(
  name: string,
  times: readonly DueTime[],
  origin: string,
  now: number,
): string {
  const calendar = new ICalCalendar({
    name,
    prodId: { company: 'Uncia', product: 'Due times', language: 'EN' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: 15 * 60,
  });
  for (const time of times) {
    const event = calendar.createEvent({
      id: time.uid,
      start: new Date(time.due),
      end: new Date(time.due),
      stamp: new Date(now),
      lastModified: new Date(time.changed),
      sequence: Math.max(0, Math.floor((time.changed - time.handedOut) / 1000)),
      summary: `${time.class}: ${time.title} due`,
      description: time.instructions || null,
      url: `${origin}${time.to}`,
      status: ICalEventStatus.CONFIRMED,
      categories: [{ name: time.class }],
    });
    event.x(COLOR_LATER, colorOf(time.classId));
  }
  return calendar.toString().replaceAll(`\r\n${COLOR_LATER}:`, '\r\nCOLOR:');
}
