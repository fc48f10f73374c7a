import type { KeptVersion } from './kept-versions';
import type { LineSitting } from './work-line';

/** How a page was written: its sittings, its kept versions, and whose names they carry. */
export interface PageHistory {
  /** The first version that its reader sees, and the newest. */
  first: number;
  version: number;
  line: LineSitting[];
  kept: KeptVersion[];
  /** Proposals that were taken: what they brought in is their proposer's; who took it, and when. */
  taken: { version: number; by: string; at: number }[];
  /** Who wrote, or did what a version is kept for, by id. */
  names: Record<string, string>;
  /** Of those who wrote, the staff: in a student's page their words have no share. */
  staff: string[];
  timeZone: string;
  mayPutBack: boolean;
  /** The other copies of the same assignment in its class, for its staff to compare with. */
  others: { page: string; name: string; version: number }[];
}
