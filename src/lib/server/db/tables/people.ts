import type { Generated } from 'kysely';
import type { MessageFact } from '$core/messages/message';
import type { Made, Json, Instant, MaybeInstant } from './columns';

interface School {
  id: Generated<number>;
  name: string;
  time_zone: string;
  /** No e-mail goes out between these times of the school's clock: "19:00". */
  quiet_from: Made<string>;
  quiet_to: Made<string>;
}

interface Term {
  id: Made<string>;
  school_id: number;
  name: string;
  starts: string;
  ends: string;
}

interface Holiday {
  id: Made<string>;
  school_id: number;
  name: string;
  starts: string;
  ends: string;
}

interface Person {
  id: Made<string>;
  school_id: number;
  role: 'teacher' | 'student' | 'office';
  given: string;
  family: string;
  /** How students address them: "Ms Orrey"; empty for students. */
  called: string;
  sign_in_name: string;
  password_hash: string;
  demo: Made<boolean>;
  email: Made<string>;
  /** Nobody signs in to it any more. */
  disabled_at: MaybeInstant;
  /** The teacher who made the account, and so may give its first password. */
  made_by: Made<string | null>;
  /** Seals what the person leaves in a browser: 32 bytes as hexadecimal digits. */
  seal: Made<string>;
  /** How what is told comes by e-mail, too. */
  mails: Made<'gathered' | 'daily' | 'never'>;
  /** Whether one of the staff is told of work that is handed in. */
  hears_hand_ins: Made<boolean>;
  /** A process that writes to them now, or was killed while it did. */
  mail_claimed_at: MaybeInstant;
  mail_failures: Made<number>;
  /** What the mail server said last, when it refused. */
  mail_fault: Made<string>;
  /** Of an opened archive: somebody whom the school does not know, and who never signs in. */
  name_only: Made<boolean>;
}

interface Session {
  id: string;
  school_id: number;
  person_id: string;
  made_at: Made<Date>;
  /** When something was asked for in it last. */
  last_at: Made<Date>;
  /** What browser it is in, as its person may know it. */
  browser: Made<string>;
  expires_at: Instant;
}

/** A browser in which a person has signed in: others' wrong passwords do not lock it out. */
interface KnownBrowser {
  hash: string;
  person_id: string;
  school_id: number;
  made_at: Made<Date>;
}

interface RateLimit {
  key: string;
  points: number;
  expire: string | null;
}

/** A link to a new password, sent by e-mail. */
interface PasswordLink {
  hash: string;
  person_id: string;
  school_id: number;
  made_at: Made<Date>;
  used_at: MaybeInstant;
}

interface SetUpLink {
  hash: string;
  school_id: number;
  made_at: Made<Date>;
  used_at: MaybeInstant;
}

/** A line of somebody's desk that they put off. */
interface PutOff {
  person_id: string;
  school_id: number;
  /** As `lineKey` says. */
  line: string;
  until_at: Instant;
}

interface Message {
  id: Made<string>;
  school_id: number;
  person_id: string;
  at: Made<Date>;
  fact: Json<MessageFact>;
  link: string;
  read_at: MaybeInstant;
  /** When it went out by e-mail, or was found not to. */
  mailed_at: MaybeInstant;
  /** What it tells of: nobody is told of the same thing twice. */
  cause: string;
}

interface CalendarFeed {
  person_id: string;
  school_id: number;
  secret: string;
  made_at: Made<Date>;
}

interface OfficeMap {
  school_id: number;
  kind: 'class' | 'person';
  sourced_id: string;
  class_id: string | null;
  person_id: string | null;
}

/** The school, its people, and how they sign in and are told. */
export interface PeopleTables {
  school: School;
  term: Term;
  holiday: Holiday;
  person: Person;
  session: Session;
  known_browser: KnownBrowser;
  rate_limit: RateLimit;
  password_link: PasswordLink;
  set_up_link: SetUpLink;
  put_off: PutOff;
  message: Message;
  calendar_feed: CalendarFeed;
  office_map: OfficeMap;
}
