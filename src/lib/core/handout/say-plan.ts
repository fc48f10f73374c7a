import { writeLocalTime } from '../calendar/local-time';
import { sayClock, sayDay, sayTime } from '../calendar/say-time';
import { counted } from '../lists/counted';
import { listed } from '../lists/listed';
import { writePoints } from '../marking/points';
import type { Oddity, PlanFact } from './plan-facts';

const onlyThey = (n: number) =>
  n === 1 ? 'which only that student will see' : `which only those ${n} will see`;
const ofPage = (page: string | null) => (page === null ? '' : ` of “${page}”`);

/** A fact of a plan in words. @param timeZone of the school's clock */
export function sayPlanFact(fact: PlanFact, timeZone: string): string {
  switch (fact.kind) {
    case 'nobody':
      return `Nobody is in ${listed(fact.classes)} yet, so no copy will be made.`;
    case 'done or not':
      return `${counted(fact.students, 'student')} will be asked to say when it is done; there is no page.`;
    case 'own copies': {
      const { copies, adapted, classes } = fact;
      const of = ofPage(fact.page);
      const split =
        adapted > 0
          ? `: ${copies - adapted} of the page and ${adapted} of ${adapted === 1 ? 'an adapted page' : 'adapted pages'}, ${onlyThey(adapted)}`
          : '';
      return copies === 1
        ? `1 copy${of} will be made, named for its student${split}.`
        : `${copies} copies${of} will be made, each named for its student in ${listed(classes)}${split}.`;
    }
    case 'read':
      return `${counted(fact.students, 'student')} will read the page${ofPage(fact.page)}; nobody writes on it.`;
    case 'shared by class':
      return `1 page${ofPage(fact.page)} will be shared by ${counted(fact.students, 'student')} of ${fact.class}.`;
    case 'shared by groups':
      return `${counted(fact.pages, 'page')}${ofPage(fact.page)} will be made, one for each group in ${listed(fact.classes)}, for ${counted(fact.students, 'student')}.`;
    case 'alone':
      return `${counted(fact.students, 'student')} will get a page${ofPage(fact.page)} alone.`;
    case 'adapted copies':
      return `${counted(fact.students, 'student')} will get a page adapted for them, ${onlyThey(fact.students)}.`;
    case 'goes out':
      return `It goes out on ${sayTime(fact.at, timeZone)}.`;
    case 'due': {
      const dues = fact.times.map(({ at, classes }) => {
        const place = fact.times.length > 1 ? ` in ${listed(classes)}` : '';
        return at === null ? `without a due time${place}` : `due ${sayTime(at, timeZone)}${place}`;
      });
      return `It is ${listed(dues)}.`;
    }
    case 'guarded':
      return `Your text on the page is guarded: answers go in ${counted(fact.places, 'place')}.`;
    case 'not guarded':
      return 'Your text is not guarded: students can change all of the page.';
    case 'points':
      return `It counts for ${writePoints(fact.points)} points.`;
    case 'each says done':
      return 'Each of those who share it says when they are done; with the last of them it is handed in.';
    case 'marks itself':
      return `It marks itself once it is handed in, by the answer keys of ${fact.keys} of ${counted(fact.parts, 'part')}; ${
        fact.back ? 'students see at once how many are right.' : 'you hand it back.'
      }`;
    case 'not taken late':
      return 'After its due time it is not taken any more.';
  }
}

const nth = (n: number) => (n === 1 ? '1st' : n === 2 ? '2nd' : n === 3 ? '3rd' : `${n}th`);

/** What may surprise, in words. @param timeZone of the school's clock */
export function sayOddity(oddity: Oddity, timeZone: string): string {
  switch (oddity.kind) {
    case 'no such lesson':
      return `${oddity.class} has no ${nth(oddity.nth)} lesson after that, so it has no due time there.`;
    case 'nobody gets it':
      return `Nobody in ${oddity.class} gets it.`;
    case 'closed class':
      return `${oddity.class} is closed; its students see it when it opens.`;
    case 'in several classes':
      return `${oddity.name} is in ${listed(oddity.classes)}, and gets it once, in ${oddity.classes[0]}.`;
    case 'adapted for others':
      return `“${oddity.page}” is meant for ${counted(oddity.students, 'student')} who ${oddity.students === 1 ? 'does' : 'do'} not get this.`;
    case 'adapts nothing':
      return `“${oddity.page}” stands for a page that is not handed out.`;
    case 'nowhere to write':
      return `“${oddity.page}” has no place for an answer, and its text is guarded: nobody could write on it.`;
    case 'no answer keys':
      return `“${oddity.page}” has no answer keys, so nothing on it marks itself.`;
    case 'empty group':
      return `${oddity.group} in ${oddity.class} has nobody who gets it, so no page is made for it.`;
    case 'no groups':
      return `No groups are chosen for ${oddity.class}, so everybody there gets a page alone.`;
    case 'in no group':
      return `${oddity.name} is in no group of ${oddity.class}, and gets a page alone.`;
    case 'due in the past':
      return 'It is due in the past.';
    case 'due before it goes out':
      return `It is due in ${oddity.class} before it goes out.`;
    case 'due after the term':
      return `It is due in ${writeLocalTime(oddity.at, timeZone).slice(0, 4)}, after the term of ${oddity.class} has ended.`;
    case 'due at midnight':
      return 'It is due at midnight, when the reminder would wake people.';
    case 'due on a day without lesson':
      return `${oddity.class} has no lesson on ${sayDay(oddity.at, timeZone)}, when it is due.`;
    case 'due in holidays':
      return `It is due on ${sayDay(oddity.at, timeZone)}, in the holidays of ${oddity.class}.`;
    case 'due time is skipped':
      return `The clock goes forward that night and has no ${oddity.local.slice(11)}: it is due at ${sayClock(oddity.at, timeZone)}.`;
    case 'due time comes twice':
      return `The clock goes back that night and has ${sayClock(oddity.at, timeZone)} twice: it is due at the first.`;
    case 'goes out at night':
      return `It goes out at ${sayClock(oddity.at, timeZone)}, at night.`;
    case 'goes out in holidays':
      return `It goes out in the holidays of ${oddity.class}.`;
    case 'due outside a lesson':
      return `It is due at ${sayClock(oddity.at, timeZone)}, when ${oddity.class} has no lesson.`;
  }
}
