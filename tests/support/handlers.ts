/** One handler of a server route. */
export interface Handler {
  name: string;
  route: string;
  method: string;
  /** Of a form; empty where the handler is no form's. */
  action: string;
  /** Whether it is a view's data rather than an answer of its own. */
  isData: boolean;
}

/** Every handler of every server route, found in the routes themselves. */
export async function readHandlers(): Promise<Handler[]> {
  const found: Handler[] = [];
  const modules = import.meta.glob<Record<string, unknown>>('../../src/routes/**/+*server.ts');
  for (const [path, load] of Object.entries(modules)) {
    const route = path.replace('../../src/routes', '').replace(/\/\+.*$/, '') || '/';
    const layout = path.includes('+layout') ? '+layout ' : '';
    for (const [exported, value] of Object.entries(await load())) {
      const add = (method: string, action: string, isData: boolean) =>
        found.push({
          route,
          method,
          action,
          isData,
          name: `${method} ${layout}${route} ${action}`.trim(),
        });
      if (exported === 'actions' && value && typeof value === 'object')
        for (const action of Object.keys(value)) add('POST', action, false);
      else if (typeof value === 'function')
        add(exported === 'load' ? 'GET' : exported, '', exported === 'load');
    }
  }
  return found;
}
