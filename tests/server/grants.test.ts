import ts from 'typescript';
import { describe, expect, it } from 'vitest';

/** What does not compile: each line forgets a check, or brings the outcome of another. */
const FORGOTTEN = `
import type { Grant } from '../../src/lib/server/access/grant';
import type { App } from '../../src/lib/server/app';
import { handIn } from '../../src/lib/server/copy/moves';
import { readOpenMargin } from '../../src/lib/server/copy/threads';
import { viewOwnCopy } from '../../src/lib/server/copy/view-copy';
import { addUnit } from '../../src/lib/server/course/units';
import { writeKey } from '../../src/lib/server/course/answer-keys';
import { shareCourse } from '../../src/lib/server/course/courses';
import { openClass } from '../../src/lib/server/class/open-class';
import { viewBoard } from '../../src/lib/server/class/view-class';
import { withdraw } from '../../src/lib/server/handout/change-assignment';
import { handOut } from '../../src/lib/server/handout/hand-out';
import { givePasswords } from '../../src/lib/server/school/people';

declare const app: App;
declare const looked: Grant<'look inside'>;
declare const marked: Grant<'mark'>;
declare const seen: Grant<'see the class'>;
declare const used: Grant<'see the course'>;
declare const teaches: Grant<'manage courses'>;
declare const ran: Grant<'run the assignment'>;
declare const spec: Parameters<typeof handOut>[1]['spec'];
declare const key: Parameters<typeof writeKey>[3];

void withdraw(app, ran, true, new Date()); // this one has what it needs
void handIn(app, 'a page', ''); // an id
void handIn(app, { ...marked }, ''); // a copy of a grant
void handIn(app, marked, ''); // the grant for something else
void handIn(app, { line: 'do own work', person: marked.person, thing: marked.thing, relation: 'owner' }, '');
void handIn(app, { line: 'do own work', person: marked.person, thing: marked.thing, relation: 'owner', may: () => true }, '');
void readOpenMargin(app, { thing: marked.thing, person: marked.person });
void viewOwnCopy(app, looked);
void addUnit(app.db, used, 'A unit');
void writeKey(app.db, marked, 'a part', key);
void shareCourse(app.db, used, 'somebody', 'own');
void openClass(app, seen, new Date());
void viewBoard(app.db, used);
void withdraw(app, seen, true, new Date());
void handOut(app, { spec, by: 'somebody' }, { id: 'an id', at: new Date() });
void givePasswords(app, teaches, []);
`;

describe('a check that is forgotten', () => {
  it('does not compile', () => {
    const { config } = ts.readConfigFile('tsconfig.json', ts.sys.readFile);
    const { options } = ts.parseJsonConfigFileContent(config, ts.sys, process.cwd());
    const name = `${process.cwd()}/tests/server/forgotten.ts`;
    const host = ts.createCompilerHost(options);
    const { getSourceFile, fileExists } = host;
    host.fileExists = (file) => file === name || fileExists(file);
    host.getSourceFile = (file, ...rest) =>
      file === name
        ? ts.createSourceFile(file, FORGOTTEN, ts.ScriptTarget.Latest)
        : getSourceFile(file, ...rest);
    const program = ts.createProgram([name], { ...options, noEmit: true }, host);
    const faults = ts.getPreEmitDiagnostics(program, program.getSourceFile(name));
    const lines = FORGOTTEN.split('\n');
    const first = lines.findIndex((line) => line.startsWith('void')) + 1;
    const at = faults.map(({ file, start }) =>
      file && start !== undefined ? file.getLineAndCharacterOfPosition(start).line : -1,
    );
    const forgotten = lines.flatMap((line, n) =>
      n >= first && line.startsWith('void') ? [n] : [],
    );
    expect([...new Set(at)]).toEqual(forgotten);
  });
});
