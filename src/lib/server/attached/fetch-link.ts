import http from 'node:http';
import https from 'node:https';
import { RequestFilteringHttpAgent, RequestFilteringHttpsAgent } from 'request-filtering-agent';
import type { LinkAnswer } from '$core/attached/links';

/** What stands behind a link. */
export interface Fetched extends LinkAnswer {
  /** As the answer's header has it; what the bytes say counts for more. */
  type: string;
  bytes: Buffer;
  /** There is more than is kept. */
  isCut: boolean;
}

/** A link that is not asked for, or is not answered; its message is a sentence. */
export class LinkFault extends Error {}

const MOST_REDIRECTS = 5;
/** In bytes. */
export const MOST_OF_LINK = 10_000_000;
/** For all of it, in milliseconds. */
const PATIENCE = 15_000;

/**
 * Asks for what stands behind a link, as somebody who is signed in nowhere. Addresses inside the school's network are not asked, by
 * whatever name and after whatever redirect: the address is looked at when the connection is made.
 * @param trusted an origin that is asked wherever it lies: the document service that was set; empty for none
 * @throws LinkFault
 */
export async function fetchLink(asked: string, trusted: string): Promise<Fetched> {
  const signal = AbortSignal.timeout(PATIENCE);
  let landed = asked;
  for (let hops = 0; hops <= MOST_REDIRECTS; hops++) {
    const answer = await get(new URL(landed), trusted, signal);
    const { location } = answer;
    if (location === null) return { ...answer, asked, landed };
    const next = URL.parse(location, landed);
    if (next?.protocol !== 'http:' && next?.protocol !== 'https:')
      throw new LinkFault('This link leads to something that is no page of the web.');
    landed = next.href;
  }
  throw new LinkFault('This link leads from one address to the next, and never arrives.');
}

type Answer = Omit<Fetched, 'asked' | 'landed'> & { location: string | null };

/** Refuses private, loopback, link-local and other addresses that are not for everybody (RFC 6890). */
const agents = {
  'http:': new RequestFilteringHttpAgent({
    allowPrivateIPAddress: false,
    allowMetaIPAddress: false,
  }),
  'https:': new RequestFilteringHttpsAgent({
    allowPrivateIPAddress: false,
    allowMetaIPAddress: false,
  }),
};

function get(url: URL, trusted: string, signal: AbortSignal): Promise<Answer> {
  const isTrusted = trusted !== '' && url.origin === new URL(trusted).origin;
  const ask = url.protocol === 'https:' ? https : http;
  const agent = isTrusted ? undefined : agents[url.protocol as keyof typeof agents];
  return new Promise((resolve, reject) => {
    const failed = (cause: Error) =>
      reject(new LinkFault('Nothing answers at this address that others could reach.', { cause }));
    const request = ask.get(
      url,
      {
        signal,
        agent,
        headers: { accept: '*/*', 'user-agent': 'Uncia (looks whether a link can be opened)' },
      },
      (answer) => {
        const status = answer.statusCode ?? 0;
        const { location } = answer.headers;
        if (status >= 300 && status < 400 && location) {
          answer.resume();
          resolve({ status, type: '', bytes: Buffer.alloc(0), isCut: false, location });
          return;
        }
        const pieces: Buffer[] = [];
        let size = 0;
        const done = (isCut: boolean) =>
          resolve({
            status,
            type: answer.headers['content-type'] ?? '',
            bytes: Buffer.concat(pieces).subarray(0, MOST_OF_LINK),
            isCut,
            location: null,
          });
        answer.on('data', (piece: Buffer) => {
          pieces.push(piece);
          size += piece.length;
          if (size <= MOST_OF_LINK) return;
          done(true);
          answer.destroy();
        });
        answer.on('end', () => done(false));
        answer.on('error', failed);
      },
    );
    request.on('error', failed);
  });
}
