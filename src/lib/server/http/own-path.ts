const BASE = 'http://uncia.invalid';

/** A way within Uncia, as the browser will understand it; anything that leads elsewhere becomes the beginning. */
export function ownPath(to: string): string {
  if (!to.startsWith('/') || /[\p{Cc}\\]/u.test(to)) return '/';
  const url = URL.canParse(to, BASE) ? new URL(to, BASE) : null;
  return url?.origin === BASE && !url.pathname.startsWith('//')
    ? `${url.pathname}${url.search}${url.hash}`
    : '/';
}
