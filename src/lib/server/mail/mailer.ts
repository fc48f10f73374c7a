import { sql } from 'kysely';
import nodemailer, { type Transporter } from 'nodemailer';
import { goesOutNow, type MailRule } from '$core/calendar/mail-times';
import { counted } from '$core/handout/plan';
import { log } from '../log';
import type { Database } from '../db/connect';
import type { Settings } from '../settings';
import { inTransaction } from '../db/transaction';

const EVERY = 60_000;
/** So many people's mail goes out in one transaction. */
const PEOPLE_AT_ONCE = 50;

interface Waiting {
  person: string;
  email: string;
  mails: MailRule;
  oldest: Date;
  time_zone: string;
  quiet_from: string;
  quiet_to: string;
}

/**
 * Sends what people were told by e-mail, too: gathered into one mail each, outside the school's quiet hours, as each of
 * them wants it. A process that dies between sending and noting it sends that mail once more; none is lost.
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
    if (!this.transport) return;
    this.timer = setInterval(() => {
      this.running = this.send(Date.now()).catch((error) =>
        log.warn({ err: error }, 'e-mail could not be sent; it is tried again'),
      );
    }, EVERY);
    this.timer.unref();
  }

  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.running;
    this.transport?.close();
  }

  /** Sends what is to go out now. @returns how many mails */
  async send(now: number): Promise<number> {
    const { transport } = this;
    if (!transport) return 0;
    const { rows } = await sql<Waiting>`
      select person.id as person, email, mails, min(message.at) as oldest, time_zone,
        quiet_from::text, quiet_to::text
      from message join person on person.id = message.person_id join school on school.id = person.school_id
      where mailed_at is null group by person.id, school.id`.execute(this.db);
    const due = rows.filter(
      (row) =>
        row.email === '' ||
        row.mails === 'never' ||
        goesOutNow(row.mails, row.oldest.getTime(), now, {
          ...{
            timeZone: row.time_zone,
            from: row.quiet_from.slice(0, 5),
            to: row.quiet_to.slice(0, 5),
          },
        }),
    );
    let sent = 0;
    for (let from = 0; from < due.length; from += PEOPLE_AT_ONCE)
      for (const row of due.slice(from, from + PEOPLE_AT_ONCE))
        sent += await this.sendTo(transport, row);
    return sent;
  }

  /** Sends one letter at once, whatever the hour: somebody waits for it. Without a mail server it is not sent. */
  async sendNow(letter: { to: string; subject: string; text: string }): Promise<void> {
    await this.transport?.sendMail({ from: this.settings.MAIL_FROM, ...letter });
  }

  private sendTo(transport: Transporter, { person, email, mails }: Waiting): Promise<number> {
    return inTransaction(this.db, async (tx) => {
      // What another process is sending is left to it.
      const messages = await tx
        .selectFrom('message')
        .select(['id', 'subject', 'text', 'link'])
        .where('person_id', '=', person)
        .where('mailed_at', 'is', null)
        .orderBy('at')
        .forUpdate()
        .skipLocked()
        .execute();
      if (messages.length === 0) return 0;
      const wanted = email !== '' && mails !== 'never';
      const [first] = messages;
      if (wanted && first)
        await transport.sendMail({
          ...{ from: this.settings.MAIL_FROM, to: email },
          subject:
            messages.length === 1
              ? first.subject
              : `${counted(messages.length, 'thing')} from Uncia`,
          text: messages
            .map(({ subject, text, link }) => `${subject}\n${text}\n${this.settings.ORIGIN}${link}`)
            .join('\n\n'),
        });
      await tx
        .updateTable('message')
        .set({ mailed_at: new Date() })
        .where(
          'id',
          'in',
          messages.map(({ id }) => id),
        )
        .execute();
      return wanted ? 1 : 0;
    });
  }
}
