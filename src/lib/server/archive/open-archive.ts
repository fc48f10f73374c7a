import type { Using } from '../services';

/** The job: opens an archive that was brought, as an archived class. */
export async function openArchive(_app: Using<'db' | 'settings'>, _id: string): Promise<void> {}
