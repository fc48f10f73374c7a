const WRITABLE =
  'input:not([type="radio"]), textarea, select, [contenteditable="true"][aria-readonly="false"]';

/** Whether a key goes into what somebody writes or chooses there: then it is no shortcut. */
export const isWriting = ({ target }: KeyboardEvent): boolean =>
  target instanceof Element && target.closest(WRITABLE) !== null;
