import { createServer, type Server } from 'node:http';

/** Who opens a document. */
type Access = 'only me' | 'whoever has the link';

interface Document {
  title: string;
  text: string;
  access: Access;
}

const escape = (text: string) => text.replace(/[&<>"]/g, (sign) => `&#${sign.codePointAt(0)};`);
const html = (title: string, body: string) =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>${escape(title)}</title><body>${body}</body></html>`;

/** What is there when it starts. */
const BEGINS: Record<string, Document> = {
  'way-in': {
    title: 'My way into the harbour',
    text: 'Keep the end light on the port bow until the crane stands clear of the shed.',
    access: 'whoever has the link',
  },
  'my-harbour': {
    title: 'My harbour',
    text: 'The mole keeps out the north wind, and the slip lies behind it.',
    access: 'only me',
  },
};

/**
 * A service for documents made elsewhere: a page for each, which its owner alone opens or whoever has the link. Others are sent to sign
 * in. Loopback only, and nobody signs in: whoever opens its first page changes who may read what.
 */
export function documentServer(): Server {
  const documents = new Map(Object.entries(structuredClone(BEGINS)));
  return createServer((request, answer) => {
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    const send = (status: number, body: string) =>
      answer.writeHead(status, { 'content-type': 'text/html; charset=utf-8' }).end(body);
    const name = /^\/d\/([\w-]+)$/.exec(url.pathname)?.[1] ?? '';
    const found = documents.get(name);
    if (url.pathname === '/') {
      const rows = [...documents].map(
        ([id, { title, access }]) =>
          `<li><a href="/d/${id}">${escape(title)}</a>: ${access}
          <form method="post" action="/d/${id}"><button>Change</button></form></li>`,
      );
      send(200, html('Documents', `<h1>Documents</h1><ul>${rows.join('')}</ul>`));
    } else if (url.pathname === '/sign-in') {
      send(200, html('Sign in', '<h1>Please say who you are</h1>'));
    } else if (!found) {
      send(404, html('Not here', '<h1>There is no such document.</h1>'));
    } else if (request.method === 'POST') {
      found.access = found.access === 'only me' ? 'whoever has the link' : 'only me';
      answer.writeHead(303, { location: '/' }).end();
    } else if (found.access === 'only me') {
      answer.writeHead(302, { location: `/sign-in?to=${encodeURIComponent(url.pathname)}` }).end();
    } else {
      send(200, html(found.title, `<h1>${escape(found.title)}</h1><p>${escape(found.text)}</p>`));
    }
  });
}
