import type { TestProject } from 'vitest/node';
import { connect } from '../../src/lib/server/db/connect';
import { migrate } from '../../src/lib/server/db/migrate';
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
  project.provide('server', server);
}

declare module 'vitest' {
  interface ProvidedContext {
    template: string;
    server: string;
  }
}
