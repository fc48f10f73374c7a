import type { TestProject } from 'vitest/node';
import { connect } from '../../src/lib/server/db/connect';
import { migrate } from '../../src/lib/server/db/migrate';
import { startApp } from '../../src/lib/server/app';
import { readSettings } from '../../src/lib/server/settings';
import { loadDemo } from '../../demo/load';
import { Jobs } from '../../src/lib/server/jobs/jobs';
import { administer } from './database';

/** One migrated database, of which every test file gets a copy. */
export default async function setup(project: TestProject): Promise<void> {
  const server = process.env.TEST_SERVER_URL;
  if (!server) throw new Error('Please run the tests with npm test: it starts their database.');
  const name = `template_${process.pid}_${project.name}`;
  await administer(server, `drop database if exists ${name}`, `create database ${name}`);
  const db = connect(server.replace(/[^/]+$/, name));
  await migrate(db);
  await db.destroy();
  const jobs = new Jobs(server.replace(/[^/]+$/, name));
  await jobs.prepare();
  await jobs.stop();
  project.provide('template', name);
  if (project.name === 'interface') project.provide('demo', await fillDemo(server, name));
  project.provide('server', server);
}

/** The demo school, of which every test file of the interface gets a copy. @returns its name */
async function fillDemo(server: string, template: string): Promise<string> {
  const name = template.replace('template', 'demo');
  await administer(
    server,
    `drop database if exists ${name}`,
    `create database ${name} template ${template}`,
  );
  const app = await startApp(
    readSettings({ DATABASE_URL: server.replace(/[^/]+$/, name), LOG_LEVEL: 'silent' }),
  );
  await loadDemo(app, Date.now());
  await app.indexer.catchUp();
  await app.close();
  return name;
}

declare module 'vitest' {
  interface ProvidedContext {
    template: string;
    demo: string;
    server: string;
  }
}
