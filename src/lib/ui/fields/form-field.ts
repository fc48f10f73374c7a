import type { Attachment } from 'svelte/attachments';

/** The browser's own check of a field: what is wrong with it, or nothing. */
export const valid =
  (fault: () => string): Attachment<HTMLInputElement> =>
  (field) => {
    field.setCustomValidity(fault());
  };

/** Follows the form that a field is in when it is emptied. */
export const followReset =
  (reset: () => void): Attachment<HTMLInputElement> =>
  (field) => {
    const { form } = field;
    form?.addEventListener('reset', reset);
    return () => form?.removeEventListener('reset', reset);
  };
