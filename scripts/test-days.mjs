/** Runs the tests with the clock on days on which programs go wrong. What follows the command is as for `npm test`. */
import { run } from './lib/project.mjs';
import { say } from './lib/say.mjs';

/** Instants, in UTC; the demo school lives in Dublin. */
const DAYS = {
  'a Saturday': '2027-03-13T10:00:00Z',
  'the last day of a month': '2027-04-30T14:00:00Z',
  'the last minutes of a year': '2026-12-31T23:50:00Z',
  'a 29 February': '2028-02-29T12:00:00Z',
  'the evening before clocks go forward': '2027-03-27T23:30:00Z',
  'the Sunday on which clocks go forward': '2027-03-28T09:00:00Z',
  'the Sunday on which clocks go back': '2027-10-31T00:20:00Z',
  'half past midnight on a Monday': '2027-02-01T00:30:00Z',
};

const red = [];
for (const [day, instant] of Object.entries(DAYS)) {
  say(`\n== ${day}: ${instant}`);
  const how = { env: { ...process.env, TEST_DAY: instant } };
  const args = ['scripts/test.mjs', ...process.argv.slice(2)];
  if ((await run(process.execPath, args, how)) !== 0) red.push(day);
}
for (const day of red) say(`red on ${day}`);
process.exit(red.length ? 1 : 0);
