import { Refusal } from './refusal';

/**
 * Nothing is written on a page of an archived class. Asked once the page is locked: the class may have been archived while
 * the request was on its way. @throws Refusal
 */
export function refuseSealed({ sealed }: { sealed: boolean }): void {
  if (sealed)
    throw new Refusal(
      403,
      'This class is archived. Everything in it can be read, and stays as it is.',
    );
}
