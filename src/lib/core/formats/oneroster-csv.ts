import type { Entry } from '../roster/read-roster';
import { readCsv } from './csv';

/**
 * A OneRoster CSV package (1EdTech OneRoster 1.1 and 1.2, CSV binding): its files are tables whose first row holds the
 * names of the fields. Read is what a class's roster needs: classes.csv, users.csv, enrollments.csv, and in 1.2 roles.csv.
 */
export interface OneRoster {
  version: '1.1' | '1.2';
  classes: { sourcedId: string; title: string; code: string }[];
  /** The students of each class, by its sourcedId. */
  students: Map<string, Entry[]>;
  /** What could not be read, by file and line. */
  bad: { file: string; line: number; says: string }[];
}

type Row = { line: number; get: (field: string) => string };

/** Fields each file must have, in both versions. */
const NEEDED = {
  'classes.csv': ['sourcedId', 'title'],
  'users.csv': ['sourcedId', 'givenName', 'familyName'],
  'enrollments.csv': ['sourcedId', 'classSourcedId', 'userSourcedId', 'role'],
} as const;

function readFile(
  name: string,
  text: string,
  needed: readonly string[],
): Row[] | { fault: string } {
  const read = readCsv(text);
  if ('fault' in read) return { fault: `${name}: ${read.fault}` };
  const [head, ...rest] = read.rows;
  const places = new Map(head?.fields.map((field, index) => [field.toLowerCase(), index]));
  const missing = needed.filter((field) => !places.has(field.toLowerCase()));
  if (missing.length > 0)
    return {
      fault: `${name} lacks ${missing.map((field) => `“${field}”`).join(' and ')} in its first line.`,
    };
  return rest.map(({ line, fields }) => ({
    line,
    get: (field) => fields[places.get(field.toLowerCase()) ?? -1]?.trim() ?? '',
  }));
}

/**
 * In bulk files the status is empty or "active"; "tobedeleted" takes away, and so does "inactive", which was one of them
 * before 1.1 (from memory).
 */
export const isActiveStatus = (status: string): boolean =>
  !/^(tobedeleted|inactive)$/i.test(status);
const isActive = (row: Row) => isActiveStatus(row.get('status'));
const ENABLED: Record<string, boolean | undefined> = { true: true, false: false };

/** @param files the texts of the package's files, by name without folders */
export function readOneRoster(files: ReadonlyMap<string, string>): OneRoster | { fault: string } {
  const tables = new Map<string, Row[]>();
  for (const [name, needed] of Object.entries(NEEDED)) {
    const text = files.get(name);
    if (text === undefined)
      return {
        fault: `The archive has no ${name}, so it is not a OneRoster package with rosters.`,
      };
    const rows = readFile(name, text, needed);
    if ('fault' in rows) return rows;
    tables.set(name, rows);
  }
  const rows = (name: keyof typeof NEEDED) => (tables.get(name) ?? []).filter(isActive);
  const bad: OneRoster['bad'] = [];

  const users = new Map<string, Row>();
  for (const row of rows('users.csv')) {
    const id = row.get('sourcedId');
    if (!id) bad.push({ file: 'users.csv', line: row.line, says: 'it has no sourcedId' });
    else if (users.has(id))
      bad.push({ file: 'users.csv', line: row.line, says: `“${id}” stands there twice` });
    else users.set(id, row);
  }
  const classes = rows('classes.csv').flatMap((row) => {
    const sourcedId = row.get('sourcedId');
    if (sourcedId) return [{ sourcedId, title: row.get('title'), code: row.get('classCode') }];
    bad.push({ file: 'classes.csv', line: row.line, says: 'it has no sourcedId' });
    return [];
  });
  const students = new Map<string, Entry[]>(classes.map(({ sourcedId }) => [sourcedId, []]));
  for (const row of rows('enrollments.csv')) {
    if (row.get('role').toLowerCase() !== 'student') continue;
    const list = students.get(row.get('classSourcedId'));
    const user = users.get(row.get('userSourcedId'));
    const fault = !list
      ? `its class “${row.get('classSourcedId')}” is not in classes.csv`
      : !user
        ? `its user “${row.get('userSourcedId')}” is not in users.csv`
        : !user.get('givenName') || !user.get('familyName')
          ? `user “${user.get('sourcedId')}” has no name`
          : null;
    if (fault || !list || !user) {
      bad.push({ file: 'enrollments.csv', line: row.line, says: fault ?? '' });
      continue;
    }
    list.push({
      line: user.line,
      given: user.get('givenName'),
      family: user.get('familyName'),
      email: user.get('email').toLowerCase(),
      officeId: user.get('sourcedId'),
      signIn: user.get('username').toLowerCase(),
      enabled: ENABLED[user.get('enabledUser').toLowerCase()],
    });
  }
  return { version: versionOf(files), classes, students, bad };
}

/** As manifest.csv says it; without one, 1.2 is known by its roles.csv. */
function versionOf(files: ReadonlyMap<string, string>): OneRoster['version'] {
  const said = /oneroster\.version["',;\s]+1\.(1|2)/i.exec(files.get('manifest.csv') ?? '')?.[1];
  if (said) return said === '2' ? '1.2' : '1.1';
  return files.has('roles.csv') ? '1.2' : '1.1';
}
