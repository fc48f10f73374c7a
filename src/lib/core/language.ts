/** The school's language: what days, times and lists are written and read in, with its order of day and month, its first day of the week and its clock. */
export const LANGUAGE = 'en-GB';
