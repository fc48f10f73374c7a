/** What a page of a student's own can be in their folio. */
export const FOLIO = ['cover', 'hidden', 'shown'] as const;
export type InFolio = (typeof FOLIO)[number];

/** What of a folio classmates see. */
export const TO_CLASSMATES: readonly InFolio[] = ['cover', 'shown'];
