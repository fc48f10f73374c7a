import { error, redirect, type RequestEvent } from '@sveltejs/kit';
import type { App } from '../app';
import { Refusal } from '../page/refusal';
import {
  findClass,
  findCourse,
  type ClassThing,
  type CourseThing,
  type PageThing,
} from './relation';
import type { SignedIn } from './session';
import { may, type AccessLine, type LineAbout, type Relation } from './table';

/** What a handler gets besides the event: who asks, for what, and what they are to it. */
interface Asked {
  app: App;
  person: SignedIn;
}
interface AskedFor<Thing> extends Asked {
  thing: Thing;
  relation: Relation;
}

/** The line that every declared handler needs, so that a test can find routes that declare none. */
export const declaredLines = new WeakMap<object, AccessLine>();

function declared<E extends RequestEvent, R>(line: AccessLine, run: (event: E) => R | Promise<R>) {
  const checked = async (event: E): Promise<R> => {
    try {
      return await run(event);
    } catch (thrown) {
      if (thrown instanceof Refusal) error(thrown.status, thrown.message);
      // Whatever came in by a file: PostgreSQL's class 22 says that a value cannot be kept.
      if (thrown instanceof Error && 'code' in thrown && /^22/.test(String(thrown.code)))
        error(422, 'This holds something that cannot be kept, so nothing was saved.');
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

/** Whoever has nothing to do with a thing is not told that it exists. */
function related<Thing>(line: AccessLine, found: { relation: Relation; thing: Thing } | null) {
  if (found && may(line, found.relation)) return found;
  const staff = found && !['nobody', 'student'].includes(found.relation);
  if (staff) error(403, 'You can see this, but not do that with it.');
  error(404, 'There is no such page here, or it is not yours to see.');
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

/** For people who are to the class of `params.class` what the line says. */
export const allowInClass = <E extends RequestEvent, R>(
  line: LineAbout<'class'>,
  handler: (event: E, asked: AskedFor<ClassThing>) => R | Promise<R>,
) =>
  declared(line, async (event: E) => {
    const person = signedIn(event);
    const found = await findClass(event.locals.app.db, person.id, event.params.class ?? '');
    return handler(event, { app: event.locals.app, person, ...related(line, found) });
  });

/** For people who are to the course of `params.course` what the line says. */
export const allowInCourse = <E extends RequestEvent, R>(
  line: LineAbout<'course'>,
  handler: (event: E, asked: AskedFor<CourseThing>) => R | Promise<R>,
) =>
  declared(line, async (event: E) => {
    const person = signedIn(event);
    const found = await findCourse(event.locals.app.db, person.id, event.params.course ?? '');
    return handler(event, { app: event.locals.app, person, ...related(line, found) });
  });

/** For people who are to the page of `params.page` what the line says. */
export const allowOnPage = <E extends RequestEvent, R>(
  line: LineAbout<'page'>,
  handler: (event: E, asked: AskedFor<PageThing>) => R | Promise<R>,
) =>
  declared(line, async (event: E) => {
    const person = signedIn(event);
    const found = await event.locals.app.findPage(person.id, event.params.page ?? '');
    return handler(event, { app: event.locals.app, person, ...related(line, found) });
  });
