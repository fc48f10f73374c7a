import { afterAll, beforeAll, inject } from 'vitest';
import { startApp, type App } from '../../src/lib/server/app';
import { readSettings } from '../../src/lib/server/settings';
import { freshDatabase } from './database';

/** This file's own database and an application on it, inside the test's process. */
export function useApp(settings: Record<string, string> = {}): {
  readonly app: App;
  readonly url: string;
} {
  let app: App | null = null;
  let url = '';
  beforeAll(async () => {
    url = await freshDatabase(inject('server'), inject('template'));
    app = await startApp(
      readSettings({
        DATABASE_URL: url,
        LOG_LEVEL: 'silent',
        DATABASE_CONNECTIONS: '6',
        ...settings,
      }),
    );
  });
  afterAll(() => app?.close());
  return {
    get app() {
      if (!app) throw new Error('the application has not started');
      return app;
    },
    get url() {
      return url;
    },
  };
}
