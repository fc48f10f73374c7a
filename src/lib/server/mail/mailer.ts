import { sql } from 'kysely';
import nodemailer, { type Transporter } from 'nodemailer';
import { goesOutNow, type MailRule } from '$core/calendar/mail-times';
import { counted } from '$core/lists/counted';
import { MessageFact } from '$core/messages/message';
import { sayMessage } from '$core/messages/say-message';
import { pagesOf } from '../copy/holders';
import { log } from '../log';
import type { Database } from '../db/connect';
import type { Settings } from '../settings';

const EVERY = 60_000;
/** Whom a process writes to is left to it for so long, in milliseconds; after each failure for twice as long. */
const CLAIMED_FOR = 600_000;
const MOST_DOUBLINGS = 8;

interface Waiting {
  person: string;
  email: string;
  mails: MailRule;
  oldest: Date;
  time_zone: string;
  quiet_from: string;
  quiet_to: string;
}

/** What a mail server answered: its code (RFC 5321, 4.2.1); null where it did not answer. */
const replyOf = (error: unknown): number | null =>
  error instanceof Error && 'responseCode' in error && typeof error.responseCode === 'number'
    ? error.responseCode
    : null;

/**
 * Sends what people were told by e-mail, too: gathered into one mail each, outside the school's quiet hours, as each of
 * them wants it. Nobody waits for another's address: one that is refused is noted, and the next one's turn comes. A process
 * that dies between sending and noting it sends that mail once more; none is lost.
 */
export class Mailer {
  private readonly transport: Transporter | null;
  private timer: NodeJS.Timeout | null = null;
  private running: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly db: Database,
    private readonly settings: Settings,
  ) {
    this.transport = settings.MAIL_URL ? nodemailer.createTransport(settings.MAIL_URL) : null;
  }

  start(): void {
    const work = () => {
      this.running = this.send(Date.now()).catch((error) =>
        log.warn({ err: error }, 'e-mail could not be sent; it is tried again'),
      );
    };
    work();
    this.timer = setInterval(work, EVERY);
    this.timer.unref();
  }

  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.running;
    this.transport?.close();
  }

  /**
   * Sends what is to go out now.
   * @returns how many mails
   * @throws any error when the mail server is away; nothing is lost then
   */
  async send(now: number): Promise<number> {
    const { transport } = this;
    if (!transport) {
      // Without a mail server nothing is kept for one: switched on later, it does not send the past.
      await this.db
        .updateTable('message')
        .set({ mailed_at: new Date(now) })
        .where('mailed_at', 'is', null)
        .execute();
      return 0;
    }
    const { rows } = await sql<Waiting>`
      select person.id as person, email, mails, min(message.at) as oldest, time_zone,
        quiet_from::text, quiet_to::text
      from message join person on person.id = message.person_id join school on school.id = person.school_id
      where mailed_at is null and ${isFree(now)}
      group by person.id, school.id`.execute(this.db);
    const due = rows.filter(
      (row) =>
        !isWanted(row) ||
        goesOutNow(row.mails, row.oldest.getTime(), now, {
          timeZone: row.time_zone,
          from: row.quiet_from.slice(0, 5),
          to: row.quiet_to.slice(0, 5),
        }),
    );
    let sent = 0;
    for (const row of due) sent += await this.sendTo(transport, row, now);
    return sent;
  }

  /** Sends one letter at once, whatever the hour: somebody waits for it. Without a mail server it is not sent. */
  async sendNow(letter: { to: string; subject: string; text: string }): Promise<void> {
    await this.transport?.sendMail({ from: this.settings.MAIL_FROM, ...letter });
  }

  /** Claims a person, writes to them with no transaction open, and notes what became of it. */
  private async sendTo(transport: Transporter, to: Waiting, now: number): Promise<number> {
    const claimed = await this.db
      .updateTable('person')
      .set({ mail_claimed_at: new Date(now) })
      .where('id', '=', to.person)
      .where(isFree(now))
      .returning('id')
      .executeTakeFirst();
    if (!claimed) return 0;
    const messages = await this.db
      .selectFrom('message')
      .select(['id', 'fact', 'link'])
      .where('person_id', '=', to.person)
      .where('mailed_at', 'is', null)
      .orderBy('at')
      .execute();
    const dead = await this.deadOf(to.person);
    const alive = messages.filter(({ id }) => !dead.has(id));
    const said = alive.map(({ fact, link }) => ({
      link,
      ...sayMessage(MessageFact.parse(fact), to.time_zone),
    }));
    const [first] = said;
    const done = messages.map(({ id }) => id);
    if (!first || !isWanted(to)) return this.note(to.person, done, now, null);
    const mail = {
      from: this.settings.MAIL_FROM,
      to: to.email,
      subject: alive.length === 1 ? first.subject : `${counted(alive.length, 'thing')} from Uncia`,
      text: said
        .map(({ subject, text, link }) => `${subject}\n${text}\n${this.settings.ORIGIN}${link}`)
        .join('\n\n'),
    };
    try {
      await transport.sendMail(mail);
    } catch (error) {
      const reply = replyOf(error);
      if (reply === null) {
        // The server is away for everybody: nobody's address is to blame.
        await this.release(to.person);
        throw error;
      }
      const fault = `The mail server answered ${reply}.`;
      await this.note(to.person, reply >= 500 ? done : [], now, fault);
      return 0;
    }
    await this.note(to.person, done, now, null);
    return 1;
  }

  /** What waits to be sent about work that its student does not have any more: withdrawn, removed, or undone. */
  private async deadOf(person: string): Promise<Set<string>> {
    const { rows } = await sql<{ id: string }>`
      select message.id from message where person_id = ${person} and mailed_at is null
        and fact ->> 'kind' in ('handed out', 'due moved', 'due soon', 'excused', 'reminder')
        and not exists (select from page
          join assignment_class handed on handed.assignment_id = page.assignment_id and handed.class_id = page.class_id
          where page.id = any(${pagesOf(person)}) and page.assignment_id = (message.fact ->> 'assignment')::uuid
            and page.away_at is null and handed.withdrawn_at is null)`.execute(this.db);
    return new Set(rows.map(({ id }) => id));
  }

  private release = (person: string) =>
    this.db.updateTable('person').set({ mail_claimed_at: null }).where('id', '=', person).execute();

  /** @param done the messages that are not to be sent any more */
  private async note(person: string, done: readonly string[], now: number, fault: string | null) {
    if (done.length > 0)
      await this.db
        .updateTable('message')
        .set({ mailed_at: new Date(now) })
        .where('id', 'in', done)
        .execute();
    await this.db
      .updateTable('person')
      .set((eb) => ({
        mail_failures: fault === null ? 0 : eb('mail_failures', '+', 1),
        mail_fault: fault ?? '',
        // After a failure the claim stays: it is what the next try waits for.
        mail_claimed_at: fault === null ? null : new Date(now),
      }))
      .where('id', '=', person)
      .execute();
    return 0;
  }
}

const isWanted = ({ email, mails }: Pick<Waiting, 'email' | 'mails'>) =>
  email !== '' && mails !== 'never';

/** Whether nobody writes to a person now, and a failure is long enough ago. */
const isFree = (now: number) => sql<boolean>`(mail_claimed_at is null or mail_claimed_at
  < ${new Date(now)}::timestamptz - make_interval(secs => ${CLAIMED_FOR / 1000} * power(2, least(mail_failures, ${MOST_DOUBLINGS}))))`;
