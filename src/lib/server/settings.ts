import { z } from 'zod';

/** What the environment may set. An unreadable value stops the start with a sentence. */
const Settings = z.object({
  DATABASE_URL: z.url({ protocol: /^postgres(ql)?$/ }),
  LOG_LEVEL: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'trace', 'silent']).default('info'),
  /** What a database without people begins with. */
  UNCIA_FIRST: z.enum(['administrator', 'nothing']).default('nothing'),
  ORIGIN: z.string().default('http://127.0.0.1:5180'),
  /** The school office's record system (OneRoster 1.2 REST), and as whom Uncia asks it. */
  OFFICE_URL: z.url({ protocol: /^https?$/ }).optional(),
  OFFICE_CLIENT_ID: z.string().default(''),
  OFFICE_CLIENT_SECRET: z.string().default(''),
  /** A service for documents that lies inside the school's network: links to it are looked at all the same. */
  DOCUMENTS_URL: z.url({ protocol: /^https?$/ }).optional(),
  /** The mail server that takes what goes out by e-mail. */
  MAIL_URL: z.url({ protocol: /^smtps?$/ }).optional(),
  MAIL_FROM: z.string().default('Uncia <uncia@school.example>'),
  /** Connections of this process; the rest of the limit is for other processes. */
  DATABASE_CONNECTIONS: z.coerce.number().int().min(2).max(100).default(10),
});

export type Settings = z.infer<typeof Settings>;

/** @throws Error that names each setting that cannot be read */
export function readSettings(env: NodeJS.ProcessEnv): Settings {
  const read = Settings.safeParse(env);
  if (read.success) return read.data;
  const faults = read.error.issues.map((issue) => `${issue.path.join('.')}: ${issue.message}`);
  throw new Error(`Uncia cannot start with these settings. ${faults.join('. ')}.`);
}
