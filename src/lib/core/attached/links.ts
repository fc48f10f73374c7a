import type { Found } from './attached';

/** An address that can be attached; or why it cannot, a sentence. */
export type ReadLink = { url: string } | { fault: string };

const SCHEME = /^[a-z][a-z0-9+.-]*:/i;

/**
 * Reads what somebody typed or pasted as the address of a document: "school.example/doc" is one, too. Where it leads is looked at by
 * whoever asks it: the address alone does not tell whether it leads into the school's own network.
 */
export function readLink(text: string): ReadLink {
  const typed = text.trim();
  if (typed === '') return { fault: 'Paste the address of the document.' };
  if (typed.length > 2000) return { fault: 'This address is longer than 2,000 characters.' };
  const isWeb = /^https?:\/\//i.test(typed);
  // A host and its port look like a scheme: "school.example:8080/doc".
  if (!isWeb && SCHEME.test(typed) && !/^[^:/]+\.[^:/]+:\d+/.test(typed))
    return { fault: 'A link begins with http:// or https://.' };
  const url = URL.parse(isWeb ? typed : `https://${typed}`);
  if (!url || !url.hostname || (!isWeb && !url.hostname.includes('.')))
    return { fault: 'This is not an address that a browser could open.' };
  if (url.username || url.password)
    return { fault: 'This address has a name or a password in it. Please attach one without.' };
  return { url: url.href };
}

/** What came back when a link was asked for, by somebody who is signed in nowhere. */
export interface LinkAnswer {
  /** As HTTP has it. */
  status: number;
  asked: string;
  /** Where it was answered, after redirects. */
  landed: string;
}

/** Words of an address to which people are sent who have to say who they are (common practice, no source). */
const SIGN_IN = /(^|[/._-])(sign-?in|log-?in|signon|sso|auth|oauth2?|accounts?|idp)([/._-]|$)/i;

/** Whether others can open a link: it was answered, and nobody was sent to sign in. */
export function foundOf({ status, asked, landed }: LinkAnswer): Found {
  if (status < 200 || status > 299) return 'cannot be opened';
  const [from, to] = [new URL(asked), new URL(landed)];
  const isElsewhere = from.host !== to.host || from.pathname !== to.pathname;
  return isElsewhere && SIGN_IN.test(`${to.hostname}${to.pathname}`) ? 'cannot be opened' : 'fine';
}
