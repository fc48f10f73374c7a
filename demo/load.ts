import { attachWork } from './attached';
import { bringFiles } from './collecting';
import { Chance } from './chance';
import type { App } from '../src/lib/server/app';
import { fillClass } from './class-pages';
import { fillCourse } from './course';
import { workElsewhere } from './elsewhere';
import { giveFeedback } from './feedback';
import { fillFolios } from './folios';
import { letClassmatesScore } from './classmates';
import { handBackAgain } from './hand-back-again';
import { handOutPlan } from './hand-out-plan';
import { fillLastYear } from './last-year';
import { plans } from './plans';
import { DAY, letJoin, makeSchool } from './school';
import { handOutShared } from './shared-work';
import { markWithTwo } from './two-markers';

/**
 * Fills an empty database with Skerry Point School, as it is six weeks into its term.
 * @param now epoch milliseconds; everything is made relative to it
 */
export async function loadDemo(app: App, now: number): Promise<void> {
  const chance = new Chance(8_032);
  const school = await makeSchool(app, chance, now);
  const lessons = school.classes[0]?.lessons ?? [];
  const begins = lessons[0]?.starts ?? now;
  const originals = await fillCourse(app, {
    school: school.id,
    course: school.course,
    teacher: school.teacher,
    at: new Date(begins - DAY),
  });
  for (const klass of school.classes)
    await fillClass(app, {
      school: school.id,
      course: school.course,
      class: klass,
      teacher: school.teacher,
      at: new Date(begins),
    });
  // The first lesson that has not ended yet; work that is "due at the next but one" is due in some days.
  const today = lessons.findIndex(({ ends }) => ends > now);
  for (const plan of plans(chance, today)) await handOutPlan(app, chance, school, plan, originals);
  await handOutShared(app, chance, school, originals, today);
  await fillFolios(app, school);
  await workElsewhere(app, school);
  await attachWork(app, school);
  await bringFiles(app, school);
  await giveFeedback(app, school);
  await letJoin(app, school);
  await fillLastYear(app, chance, school, originals);
  await handBackAgain(app, school);
  await markWithTwo(app, chance, school);
  await letClassmatesScore(app, chance, school);
}
