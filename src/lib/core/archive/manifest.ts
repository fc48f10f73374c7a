/** Manifests of a bag (RFC 8493): a digest and a path on each line. */

/** Signs of a path that would end its line, and the sign that stands for them (RFC 8493, 2.1.3). */
const encode = (path: string) =>
  path.replace(/[%\r\n]/g, (sign) => ({ '%': '%25', '\r': '%0D' })[sign] ?? '%0A');
const decode = (path: string) =>
  path.replace(
    /%(25|0d|0a)/gi,
    (_, code: string) => ({ '25': '%', '0D': '\r' })[code.toUpperCase()] ?? '\n',
  );

/** The text of a manifest, its paths in order. @param digests SHA-256 as hexadecimal digits, by path */
export const writeManifest = (digests: ReadonlyMap<string, string>): string =>
  [...digests]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([path, digest]) => `${digest}  ${encode(path)}\n`)
    .join('');

/** The digests of a manifest, by path; null where a line is none, or a path stands there twice. */
export function readManifest(text: string): Map<string, string> | null {
  const digests = new Map<string, string>();
  for (const line of text.split(/\r\n|\r|\n/)) {
    if (line === '') continue;
    const [, digest, path] = /^([0-9a-f]{64})[ \t]+\*?(.+)$/i.exec(line) ?? [];
    if (digest === undefined || path === undefined || digests.has(decode(path))) return null;
    digests.set(decode(path), digest.toLowerCase());
  }
  return digests;
}

/** The tag files "Label: value" of a bag; what is longer than a line is not folded. */
export const writeTags = (tags: readonly (readonly [string, string])[]): string =>
  tags.map(([label, value]) => `${label}: ${value.replace(/\s+/g, ' ').trim()}\n`).join('');

/** What a bag is declared by: `bagit.txt`. */
export const DECLARATION = 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n';

/** Whether a text declares a bag that is read here. */
export const isDeclared = (text: string): boolean =>
  /^BagIt-Version: (0\.97|1\.0)\r?\nTag-File-Character-Encoding: UTF-8\s*$/.test(text);
