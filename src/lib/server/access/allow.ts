import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import type { App } from '../app';
import { refusalIn } from '../page/refusal';
import { Grant, type ThingOf } from './grant';
import { findAssignment, findClass, findCourse } from './relation';
import type { SignedIn } from './session';
import { ACCESS, may, type AccessLine, type LineAbout, type Relation } from './table';

/** What a handler gets besides the event: who asks, for what, and what they are to it. */
interface Asked {
  app: App;
  person: SignedIn;
}
interface AskedFor<L extends AccessLine> extends Asked {
  thing: ThingOf<L>;
  relation: Relation;
  /** What services ask for: that this person may do this with this thing. */
  grant: Grant<L>;
}

/** The line that every declared handler needs, so that a test can find routes that declare none. */
export const declaredLines = new WeakMap<object, AccessLine>();

function declared<E extends RequestEvent, R>(line: AccessLine, run: (event: E) => R | Promise<R>) {
  const checked = async (event: E): Promise<R> => {
    try {
      return await run(event);
    } catch (thrown) {
      const refusal = refusalIn(thrown);
      if (refusal) error(refusal.status, refusal.message);
      throw thrown;
    }
  };
  declaredLines.set(checked, line);
  return checked;
}

/** The person who is signed in; others are sent to sign in, or told to where nobody would see that view. */
function signedIn(event: RequestEvent): SignedIn {
  const { person } = event.locals;
  if (person) return person;
  const isView = event.isDataRequest || event.request.headers.get('accept')?.includes('text/html');
  if (isView && event.request.method === 'GET')
    redirect(303, `/sign-in?to=${encodeURIComponent(event.url.pathname)}`);
  error(401, 'You are signed out. Please sign in again; what you wrote stays in this browser.');
}

/** For everybody, signed in or not. */
export const allowAnyone = <E extends RequestEvent, R>(
  line: 'enter',
  handler: (event: E, asked: { app: App; person: SignedIn | null }) => R | Promise<R>,
) =>
  declared(line, (event: E) =>
    handler(event, { app: event.locals.app, person: event.locals.person }),
  );

/** For people of the line's roles. */
export const allowPerson = <E extends RequestEvent, R>(
  line: LineAbout<null>,
  handler: (event: E, asked: Asked) => R | Promise<R>,
) =>
  declared(line, (event: E) => {
    const person = signedIn(event);
    if (!may(line, person.role)) error(403, 'This is not for your part in the school.');
    return handler(event, { app: event.locals.app, person });
  });

type Finder<L extends AccessLine> = (
  app: App,
  person: string,
  params: Partial<Record<string, string>>,
) => Promise<{ relation: Relation; thing: ThingOf<L> } | null>;

/** For people who are to the thing that the address names what the line says. */
const allowFor =
  <L extends AccessLine>(line: L, find: Finder<L>) =>
  <E extends RequestEvent, R>(handler: (event: E, asked: AskedFor<L>) => R | Promise<R>) =>
    declared(line, async (event: E) => {
      const { app } = event.locals;
      const person = signedIn(event);
      const grant = Grant.ask(line, person, await find(app, person.id, event.params));
      const { thing, relation } = grant;
      return handler(event, { app, person, thing, relation, grant });
    });

/** About the class of `params.class`. */
export const allowInClass = <L extends LineAbout<'class'>, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: AskedFor<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async ({ db }, person, params) => findClass(db, person, params.class ?? ''))(
    handler,
  );

/** About the course of `params.course`. */
export const allowInCourse = <L extends LineAbout<'course'>, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: AskedFor<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async ({ db }, person, params) => findCourse(db, person, params.course ?? ''))(
    handler,
  );

/** About the assignment of `params.assignment`, in the class of `params.class` or, where the line says so, in all of its. */
export const allowOnAssignment = <L extends LineAbout<'assignment'>, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: AskedFor<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async ({ db }, person, params) =>
    findAssignment(
      db,
      person,
      { assignment: params.assignment ?? '', class: params.class ?? '' },
      line === 'change the assignment',
    ),
  )(handler);

/** About the page of `params.page`; where the line is about a copy or a material, of no other page. */
export const allowOnPage = <
  L extends LineAbout<'page' | 'copy' | 'material'>,
  E extends RequestEvent,
  R,
>(
  line: L,
  handler: (event: E, asked: AskedFor<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async (app, person, params) => {
    const found = await app.findPage(person, params.page ?? '');
    const { thing } = ACCESS[line];
    const isOther =
      (thing === 'copy' && found?.thing.kind !== 'copy') ||
      (thing === 'material' && ['copy', 'own page'].includes(found?.thing.kind ?? ''));
    return isOther ? null : found;
  })(handler);
