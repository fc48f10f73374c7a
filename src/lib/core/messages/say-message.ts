import { sayDate, sayTime } from '../calendar/say-time';
import { counted } from '../lists/counted';
import { listed } from '../lists/listed';
import type { MessageFact } from './message';

const STAFF = { lead: 'a lead', 'co-teacher': 'a co-teacher', marker: 'a marker' };
const MAY = { use: 'can use', write: 'can edit', own: 'own' };

/** A message in words. @param timeZone of the school's clock */
export function sayMessage(fact: MessageFact, timeZone: string): { subject: string; text: string } {
  const time = (at: number) => sayTime(at, timeZone);
  const sayDue = (due: number | null) =>
    due === null ? 'It has no due time.' : `It is due ${time(due)}.`;
  switch (fact.kind) {
    case 'handed out':
      return {
        subject: `Handed out: ${fact.title}`,
        text: `In ${fact.class}. ${sayDue(fact.due)}`,
      };
    case 'due moved':
      return {
        subject: `${fact.extension ? 'More time' : 'New due time'}: ${fact.title}`,
        text: `In ${fact.class}. ${sayDue(fact.to)}${fact.from === null ? '' : ` It was due ${time(fact.from)}.`}`,
      };
    case 'excused':
      return fact.excused
        ? { subject: `You are excused: ${fact.title}`, text: `In ${fact.class}.` }
        : {
            subject: `Not excused any more: ${fact.title}`,
            text: `In ${fact.class}. ${sayDue(fact.due)}`,
          };
    case 'handed in for you':
      return {
        subject: `Handed in: ${fact.title}`,
        text: `${fact.by} handed in the page that you share. It can be taken back until your teacher looks at it.`,
      };
    case 'handed in':
      return {
        subject: `Handed in: ${fact.title}`,
        text: `In ${fact.class}, ${counted(fact.count, 'time')} since you last looked.`,
      };
    case 'comments':
      return {
        subject: `${fact.count === 1 ? 'A comment' : `${fact.count} comments`} on ${fact.title}`,
        text: `${fact.count === 1 ? 'From' : 'The last is from'} ${fact.by}.`,
      };
    case 'proposals':
      return {
        subject: `${fact.count === 1 ? 'A proposal' : `${fact.count} proposals`} in ${fact.title}`,
        text: `${fact.by} proposes a change. Take it or leave it: you decide.`,
      };
    case 'written in':
      return {
        subject: `${fact.by} wrote in ${fact.title}`,
        text: 'What they wrote is marked in how it was written; it can be put back.',
      };
    case 'reminder':
      return {
        subject: `A reminder: ${fact.title}`,
        text: [
          `${fact.by} asks for it, in ${fact.class}.`,
          fact.overdue && fact.due !== null ? `It was due ${time(fact.due)}.` : sayDue(fact.due),
          ...(fact.words ? [`“${fact.words}”`] : []),
        ].join(' '),
      };
    case 'due soon':
      return {
        subject: `Due soon: ${fact.title}`,
        text: `In ${fact.class}. ${sayDue(fact.due)}`,
      };
    case 'not handed out':
      return {
        subject: `“${fact.title}” was not handed out`,
        text: `${fact.fault} It is saved as a draft.`,
      };
    case 'handed back':
      return { subject: `Handed back: ${fact.title}`, text: 'Your teacher has looked at it.' };
    case 'put back':
      return {
        subject:
          fact.what === 'passage'
            ? `A passage was put back: ${fact.title}`
            : `Put back as it stood before: ${fact.title}`,
        text: `${fact.by} did it. How it was until then is kept: look at the foot of the page.`,
      };
    case 'asked about':
      return {
        subject: `A question about ${fact.title}`,
        text: sayAsked(fact),
      };
    case 'moved here':
      return {
        subject: `Moved to where it belongs: ${fact.title}`,
        text: `${fact.by} moved it here from ${fact.from}, with all that you wrote.`,
      };
    case 'class opened':
      return { subject: `${fact.class} is open`, text: 'You can look around in it now.' };
    case 'class archived':
      return {
        subject: `${fact.class} has ended`,
        text:
          fact.until === null
            ? 'The class is archived.'
            : `The class is archived: nothing in it changes any more. Students can read their own work until ${sayDate(fact.until, { weekday: true, year: true })}.`,
      };
    case 'archive made':
      return { subject: `The archive is made: ${fact.name}`, text: 'You can download it.' };
    case 'archive opened':
      return fact.fault === null
        ? {
            subject: `The archive is opened: ${fact.name}`,
            text: 'It stands here as an archived class.',
          }
        : { subject: `The archive could not be opened: ${fact.name}`, text: fact.fault };
    case 'class built':
      return {
        subject: `${fact.class} is built`,
        text: [
          `${counted(fact.pages, 'page is', 'pages are')} in the class now.`,
          ...(fact.drafts > 0
            ? [`${counted(fact.drafts, 'assignment is a draft', 'assignments are drafts')}.`]
            : []),
          ...(fact.undated.length > 0
            ? [`Without a due time, because there is no such lesson: ${listed(fact.undated)}.`]
            : []),
        ].join(' '),
      };
    case 'class staff':
      return {
        subject: fact.becomes
          ? `You are ${STAFF[fact.becomes]} of ${fact.class} now`
          : `You are no longer one of the staff of ${fact.class}`,
        text: `${fact.by} changed it.`,
      };
    case 'course shared':
      return {
        subject: fact.may
          ? `You ${MAY[fact.may]} the course ${fact.course} now`
          : `The course ${fact.course} is no longer shared with you`,
        text: `${fact.by} changed it.`,
      };
    case 'asked to join':
      return {
        subject: `Will you join ${fact.class}?`,
        text: `${fact.by} would like you to be in it. Say yes or no in My work.`,
      };
    case 'join answered':
      return {
        subject: `${fact.name} ${fact.accepted ? 'has joined your class' : 'does not join your class'}`,
        text: 'You asked for it.',
      };
    case 'joined':
      return {
        subject: `${fact.students === 1 ? 'A student' : `${fact.students} students`} joined ${fact.class}`,
        text: `${counted(fact.open, 'assignment is', 'assignments are')} open. You decide at each assignment who gets what was handed out before.`,
      };
    case 'new password':
      return {
        subject: 'You have a new password',
        text: `${fact.by} gave it to you. You can change it in Account.`,
      };
    case 'sentence':
      return { subject: fact.subject, text: fact.text };
  }
}

function sayAsked({ by, cause, names }: Extract<MessageFact, { kind: 'asked about' }>): string {
  const what = listed(names);
  switch (cause) {
    case 'emptied':
    case 'pasted over':
      return `${by} sees that your words went at once. Did you mean it? How it was is kept: look at the foot of the page.`;
    case 'worked elsewhere':
    case 'wrong assignment':
      return `${by} sees your work on “${what}”, and nothing here. Where should it be?`;
    case 'cannot be read':
      return `${by} cannot read ${what}. Please attach it again, as a PDF or a picture if you can.`;
    case 'cannot be opened':
      return `${by} cannot open ${what}. Please let whoever has the link open it, or attach a file.`;
    default:
      return `${by} asks how it stands.`;
  }
}
