import { del, entries, get, set } from 'idb-keyval';

/** Who may read what lies here: their id, and the key that the server gave them when they signed in. */
let owner: { person: string; key: Promise<CryptoKey | null> } | null = null;

type Sealed = { iv: Uint8Array<ArrayBuffer>; sealed: ArrayBuffer } | { plain: unknown };

const fromHex = (hex: string) =>
  Uint8Array.from(hex.match(/../g) ?? [], (byte) => parseInt(byte, 16));

/**
 * Opens this browser's store for a person. What they leave behind stays for them alone: it lies under their id, sealed
 * with a key that is in memory only while they are signed in. Where the browser has no cryptography (a plain http
 * address that is not this machine) it lies open.
 * @param seal 32 bytes as hexadecimal digits
 */
export function openStore(person: string, seal: string): void {
  if (owner?.person === person) return;
  const subtle = globalThis.crypto?.subtle;
  const key = subtle
    ? subtle.importKey('raw', fromHex(seal), 'AES-GCM', false, ['encrypt', 'decrypt'])
    : Promise.resolve(null);
  owner = { person, key };
}

const isAway = () => !globalThis.indexedDB || owner === null;
const nameOf = (name: string) => `${owner?.person} ${name}`;

async function unseal(value: Sealed): Promise<unknown> {
  if ('plain' in value) return value.plain;
  const key = await owner?.key;
  if (!key) return null;
  // What another key sealed is not this person's to read.
  const bytes = await crypto.subtle
    .decrypt({ name: 'AES-GCM', iv: value.iv }, key, value.sealed)
    .catch(() => null);
  return bytes ? JSON.parse(new TextDecoder().decode(bytes)) : null;
}

/** Keeping goes one after the other: what is kept last under a name stays. */
let before: Promise<unknown> = Promise.resolve();
/** What is to be kept last under each name, until it is: what waits before it under that name is passed over. */
const newest = new Map<string, { kept: Promise<void> }>();

/**
 * Keeps a value, as JSON has it, under a name; null removes it.
 * @param value or what gives it when its turn has come
 * @returns resolves when it is kept, or what has taken its place @throws as IndexedDB does
 */
export function store(name: string, value: unknown): Promise<void> {
  if (isAway()) return Promise.resolve();
  const own = nameOf(name);
  const sealedBy = owner?.key;
  const mine = { kept: Promise.resolve() };
  newest.set(own, mine);
  const turn = before.then(async () => {
    const last = newest.get(own);
    if (last !== mine) return last;
    try {
      await keep(own, typeof value === 'function' ? value() : value, await sealedBy);
    } finally {
      if (newest.get(own) === mine) newest.delete(own);
    }
    return null;
  });
  before = turn.catch(() => undefined);
  mine.kept = turn.then((instead) => instead?.kept);
  return mine.kept;
}
async function keep(own: string, value: unknown, key?: CryptoKey | null): Promise<void> {
  if (value === null) return del(own);
  if (!key) return set(own, { plain: value } satisfies Sealed);
  const iv = crypto.getRandomValues(new Uint8Array(12));
  const bytes = new TextEncoder().encode(JSON.stringify(value));
  const sealed = await crypto.subtle.encrypt({ name: 'AES-GCM', iv }, key, bytes);
  await set(own, { iv, sealed } satisfies Sealed);
}

/** What was kept last, also where that is still being done. @returns null when nothing lies there that this person may read */
export async function read(name: string): Promise<unknown> {
  if (isAway()) return null;
  const own = nameOf(name);
  await newest.get(own)?.kept.catch(() => undefined);
  const value = await get<Sealed>(own);
  return value ? unseal(value) : null;
}

/** What lies under names that begin so, in no order. */
export async function readAll(prefix: string): Promise<[name: string, value: unknown][]> {
  if (isAway()) return [];
  const begin = nameOf(prefix);
  const theirs = (await entries<string, Sealed>()).filter(([name]) => name.startsWith(begin));
  const read = await Promise.all(
    theirs.map(async ([name, value]): Promise<[string, unknown]> => [
      name.slice(nameOf('').length),
      await unseal(value),
    ]),
  );
  return read.filter(([, value]) => value !== null);
}
