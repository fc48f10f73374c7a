import type { Selectable } from 'kysely';
import type { PeopleTables } from './tables/people';
import type { CourseTables } from './tables/course';
import type { ClassTables } from './tables/class';
import type { AssignmentTables } from './tables/assignment';
import type { Page, PageTables } from './tables/page';
import type { AttachedTables } from './tables/attached';
import type { MarkingTables } from './tables/marking';

export type { CourseRight } from './tables/course';
export type { AbsenceKind, Area } from './tables/page';

/** Every table carries its school, so that schools can be spread over machines. */
export interface Tables
  extends
    PeopleTables,
    CourseTables,
    ClassTables,
    AssignmentTables,
    PageTables,
    AttachedTables,
    MarkingTables {}

export type PageRow = Selectable<Page>;
