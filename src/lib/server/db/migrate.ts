import { Migrator, type Kysely } from 'kysely';
import * as slice from './migrations/2026-11-25-slice';
import * as courses from './migrations/2026-11-26-courses';
import * as find from './migrations/2026-11-27-find';
import * as codes from './migrations/2026-11-28-codes';
import * as handingOut from './migrations/2026-11-29-handing-out';
import * as undoings from './migrations/2026-11-30-undoings';
import * as ground from './migrations/2026-12-01-ground';
import * as pictures from './migrations/2026-12-02-pictures';
import * as facts from './migrations/2026-12-03-facts';
import * as specs from './migrations/2026-12-04-specs';
import * as lookingBack from './migrations/2026-12-05-looking-back';
import * as headcount from './migrations/2026-12-06-headcount';
import * as words from './migrations/2026-12-07-words';
import * as scoring from './migrations/2026-12-08-scoring';
import * as gradebook from './migrations/2026-12-09-gradebook';
import * as closing from './migrations/2026-12-10-closing';
import * as archives from './migrations/2026-12-11-archives';
import * as nextClass from './migrations/2026-12-12-next-class';
import * as told from './migrations/2026-12-13-told';
import * as groups from './migrations/2026-12-14-groups';
import * as broughtBack from './migrations/2026-12-15-brought-back';
import * as rubrics from './migrations/2026-12-16-rubrics';
import * as codesAgain from './migrations/2026-12-17-codes';
import * as found from './migrations/2026-12-18-found';
import * as adapted from './migrations/2026-12-19-adapted';
import * as eachDone from './migrations/2026-12-20-each-done';
import * as packed from './migrations/2026-12-21-packed';
import * as byKey from './migrations/2026-12-22-by-key';
import * as folio from './migrations/2026-12-23-folio';
import * as drawingsLost from './migrations/2026-12-24-drawings-lost';
import * as sittings from './migrations/2026-12-25-sittings';
import * as absences from './migrations/2026-12-26-absences';
import * as desk from './migrations/2026-12-27-desk';
import * as gaps from './migrations/2026-12-28-gaps';
import * as attached from './migrations/2026-12-29-attached';
import * as links from './migrations/2026-12-30-links';
import * as collecting from './migrations/2026-12-31-collecting';
import * as spots from './migrations/2027-01-01-spots';
import * as feedback from './migrations/2027-01-02-feedback';
import * as phrasebook from './migrations/2027-01-03-phrasebook';
import * as markingLine from './migrations/2027-01-04-marking-line';
import * as piles from './migrations/2027-01-05-piles';
import * as markers from './migrations/2027-01-06-markers';
import * as stamps from './migrations/2027-01-07-stamps';
import * as examples from './migrations/2027-01-10-examples';
import * as ownScoring from './migrations/2027-01-11-own-scoring';
import * as classmates from './migrations/2027-01-12-classmates';
import * as withdrawn from './migrations/2027-01-13-withdrawn';
import * as saidOnPiles from './migrations/2027-01-14-said-on-piles';
import * as said from './migrations/2027-01-09-said';
import * as why from './migrations/2027-01-08-why';
import type { Tables } from './schema';

/**
 * Brings the database's tables up to this version of Uncia. Several processes may call it at once: one does it.
 * @throws Error with a sentence when the database is newer than this version
 */
export async function migrate(db: Kysely<Tables>): Promise<void> {
  const migrations = {
    '2026-11-25-slice': slice,
    '2026-11-26-courses': courses,
    '2026-11-27-find': find,
    '2026-11-28-codes': codes,
    '2026-11-29-handing-out': handingOut,
    '2026-11-30-undoings': undoings,
    '2026-12-01-ground': ground,
    '2026-12-02-pictures': pictures,
    '2026-12-03-facts': facts,
    '2026-12-04-specs': specs,
    '2026-12-05-looking-back': lookingBack,
    '2026-12-06-headcount': headcount,
    '2026-12-07-words': words,
    '2026-12-08-scoring': scoring,
    '2026-12-09-gradebook': gradebook,
    '2026-12-10-closing': closing,
    '2026-12-11-archives': archives,
    '2026-12-12-next-class': nextClass,
    '2026-12-13-told': told,
    '2026-12-14-groups': groups,
    '2026-12-15-brought-back': broughtBack,
    '2026-12-16-rubrics': rubrics,
    '2026-12-17-codes': codesAgain,
    '2026-12-18-found': found,
    '2026-12-19-adapted': adapted,
    '2026-12-20-each-done': eachDone,
    '2026-12-21-packed': packed,
    '2026-12-22-by-key': byKey,
    '2026-12-23-folio': folio,
    '2026-12-24-drawings-lost': drawingsLost,
    '2026-12-25-sittings': sittings,
    '2026-12-26-absences': absences,
    '2026-12-27-desk': desk,
    '2026-12-28-gaps': gaps,
    '2026-12-29-attached': attached,
    '2026-12-30-links': links,
    '2026-12-31-collecting': collecting,
    '2027-01-01-spots': spots,
    '2027-01-02-feedback': feedback,
    '2027-01-03-phrasebook': phrasebook,
    '2027-01-04-marking-line': markingLine,
    '2027-01-05-piles': piles,
    '2027-01-06-markers': markers,
    '2027-01-07-stamps': stamps,
    '2027-01-08-why': why,
    '2027-01-09-said': said,
    '2027-01-10-examples': examples,
    '2027-01-11-own-scoring': ownScoring,
    '2027-01-12-classmates': classmates,
    '2027-01-13-withdrawn': withdrawn,
    '2027-01-14-said-on-piles': saidOnPiles,
  };
  const migrator = new Migrator({ db, provider: { getMigrations: async () => migrations } });
  const { error } = await migrator.migrateToLatest();
  if (!error) return;
  const newer = error instanceof Error && error.message.includes('corrupted migrations');
  throw newer
    ? new Error(
        'The database was made by a newer Uncia than this one. Please start the newer version; nothing was changed.',
        { cause: error },
      )
    : error;
}
