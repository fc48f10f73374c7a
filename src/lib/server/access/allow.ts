import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import type { Services, Using } from '../services';
import { refusalIn } from '../page/refusal';
import { Grant, ofItsKind, type LineOnPage, type ThingOf } from './grant';
import { findAssignment, findClass, findCourse } from './relation';
import type { SignedIn } from './session';
import { type AccessLine, type LineAbout, type LineOfRole, type Relation } from './table';

/** What a handler gets besides the event. */
interface Asked<L extends AccessLine> {
  app: Services;
  person: SignedIn;
  /** What services ask for: that this person may do this, with this thing. */
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
  handler: (event: E, asked: { app: Services; person: SignedIn | null }) => R | Promise<R>,
) =>
  declared(line, (event: E) =>
    handler(event, { app: event.locals.app, person: event.locals.person }),
  );

/** For people of the line's roles. */
export const allowPerson = <L extends LineOfRole, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: Asked<L>) => R | Promise<R>,
) =>
  declared(line, (event: E) => {
    const person = signedIn(event);
    return handler(event, { app: event.locals.app, person, grant: Grant.byRole(line, person) });
  });

type Finder<L extends AccessLine> = (
  app: Using<'db' | 'findPage'>,
  person: string,
  params: Partial<Record<string, string>>,
) => Promise<{ relation: Relation; thing: ThingOf<L> } | null>;

/** For people who are to the thing that the address names what the line says. */
const allowFor =
  <L extends AccessLine>(line: L, find: Finder<L>) =>
  <E extends RequestEvent, R>(handler: (event: E, asked: Asked<L>) => R | Promise<R>) =>
    declared(line, async (event: E) => {
      const { app } = event.locals;
      const person = signedIn(event);
      const grant = Grant.ask(line, person, await find(app, person.id, event.params));
      return handler(event, { app, person, grant });
    });

/** About the class of `params.class`. */
export const allowInClass = <L extends LineAbout<'class'>, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: Asked<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async ({ db }, person, params) => findClass(db, person, params.class ?? ''))(
    handler,
  );

/** About the course of `params.course`. */
export const allowInCourse = <L extends LineAbout<'course'>, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: Asked<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async ({ db }, person, params) => findCourse(db, person, params.course ?? ''))(
    handler,
  );

/** About the assignment of `params.assignment`, in the class of `params.class` or, where the line says so, in all of its. */
export const allowOnAssignment = <L extends LineAbout<'assignment'>, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: Asked<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async ({ db }, person, params) =>
    findAssignment(
      db,
      person,
      { assignment: params.assignment ?? '', class: params.class ?? '' },
      line === 'change the assignment',
    ),
  )(handler);

/** About the page of `params.page`; where the line is about one kind of page, of no other. */
export const allowOnPage = <L extends LineOnPage, E extends RequestEvent, R>(
  line: L,
  handler: (event: E, asked: Asked<L>) => R | Promise<R>,
) =>
  allowFor<L>(line, async (app, person, params) =>
    ofItsKind(line, await app.findPage(person, params.page ?? '')),
  )(handler);
