import { randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { Records } from './records';

const BASE = '/ims/oneroster/rostering/v1p2';
/** Of an access token, in seconds. */
const LIVES = 3600;
/** The service's default and greatest page, in records. */
const [USUAL, MOST] = [100, 1000];

interface Client {
  id: string;
  secret: string;
}

const withRole = ({ users }: Records, role: 'student' | 'teacher') =>
  users.filter(({ roles }) => roles.some((one) => one.role === role));

/** Which records a path names; null for a path that the service does not have. */
function collection(records: Records, path: string): { name: string; rows: object[] } | null {
  const of = /^\/classes\/([^/]+)\/students$/.exec(path);
  if (of) {
    const klass = decodeURIComponent(of[1] ?? '');
    if (!records.classes.some(({ sourcedId }) => sourcedId === klass)) return null;
    const here = new Set(
      records.enrollments
        .filter((one) => one.class.sourcedId === klass && one.role === 'student')
        .map(({ user }) => user.sourcedId),
    );
    return { name: 'users', rows: records.users.filter(({ sourcedId }) => here.has(sourcedId)) };
  }
  const all: Record<string, { name: string; rows: object[] }> = {
    '/classes': { name: 'classes', rows: records.classes },
    '/users': { name: 'users', rows: records.users },
    '/students': { name: 'users', rows: withRole(records, 'student') },
    '/teachers': { name: 'users', rows: withRole(records, 'teacher') },
    '/enrollments': { name: 'enrollments', rows: records.enrollments },
    '/orgs': { name: 'orgs', rows: records.orgs },
    '/schools': { name: 'orgs', rows: records.orgs },
    '/academicSessions': { name: 'academicSessions', rows: records.academicSessions },
    '/terms': { name: 'academicSessions', rows: records.academicSessions },
  };
  return all[path] ?? null;
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  let text = '';
  for await (const piece of request) if ((text += piece).length > 10_000) break;
  return text;
}

/**
 * A school office's record system: OneRoster 1.2 (1EdTech), REST binding of the rostering service, read only, with the
 * client credentials grant of OAuth 2 (RFC 6749, 4.4). It stands in for the real one, which a setting names.
 */
export function officeServer(records: Records, client: Client, now: () => number): Server {
  const tokens = new Map<string, number>();
  /** RFC 6749, 2.3.1: both are encoded like the fields of a form, of which there is more than one way. */
  function isClient(authorization: string): boolean {
    const sent = Buffer.from(authorization.replace(/^Basic /i, ''), 'base64').toString();
    const given = new URLSearchParams(`is=${sent.replace(':', '&has=')}`);
    return given.get('is') === client.id && given.get('has') === client.secret;
  }

  function say(response: ServerResponse, status: number, body: object, headers = {}) {
    response.writeHead(status, { 'content-type': 'application/json', ...headers });
    response.end(JSON.stringify(body));
  }
  /** The status payload of the standard. */
  const refuse = (response: ServerResponse, status: number, field: string, description: string) =>
    say(response, status, {
      imsx_codeMajor: 'failure',
      imsx_severity: 'error',
      imsx_description: description,
      imsx_CodeMinor: {
        imsx_codeMinorField: [
          { imsx_codeMinorFieldName: 'TargetEndSystem', imsx_codeMinorFieldValue: field },
        ],
      },
    });

  async function giveToken(request: IncomingMessage, response: ServerResponse) {
    const spec = new URLSearchParams(await bodyOf(request));
    if (!isClient(request.headers.authorization ?? ''))
      return say(response, 401, { error: 'invalid_client' }, { 'www-authenticate': 'Basic' });
    if (spec.get('grant_type') !== 'client_credentials')
      return say(response, 400, { error: 'unsupported_grant_type' });
    const token = randomBytes(24).toString('base64url');
    tokens.set(token, now() + LIVES * 1000);
    const scope = spec.get('scope') ?? '';
    say(response, 200, { access_token: token, token_type: 'bearer', expires_in: LIVES, scope });
  }

  function giveRecords(url: URL, response: ServerResponse) {
    const found = collection(records, url.pathname.slice(BASE.length));
    if (!found) return refuse(response, 404, 'unknownobject', 'There is no such record.');
    const limit = Number(url.searchParams.get('limit') ?? USUAL);
    const offset = Number(url.searchParams.get('offset') ?? 0);
    if (!Number.isInteger(limit) || limit < 1 || !Number.isInteger(offset) || offset < 0)
      return refuse(response, 400, 'invaliddata', 'limit and offset are whole numbers.');
    const end = offset + Math.min(limit, MOST);
    const next = new URLSearchParams({ limit: String(limit), offset: String(end) });
    const more = end < found.rows.length;
    say(
      response,
      200,
      { [found.name]: found.rows.slice(offset, end) },
      {
        'x-total-count': String(found.rows.length),
        ...(more ? { link: `<${url.origin}${url.pathname}?${next}>; rel="next"` } : {}),
      },
    );
  }

  return createServer((request, response) => {
    const url = new URL(request.url ?? '/', `http://${request.headers.host ?? 'office'}`);
    if (request.method === 'POST' && url.pathname === '/token')
      return void giveToken(request, response).catch(() => response.destroy());
    if (!url.pathname.startsWith(BASE) || request.method !== 'GET')
      return refuse(response, 404, 'unknownobject', 'There is no such service.');
    const token = /^Bearer (.+)$/i.exec(request.headers.authorization ?? '')?.[1] ?? '';
    if ((tokens.get(token) ?? 0) <= now())
      return refuse(response, 401, 'unauthorisedrequest', 'This needs a valid access token.');
    giveRecords(url, response);
  });
}
