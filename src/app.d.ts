import type { SignedIn } from '$server/access/session';
import type { Services } from '$server/services';

declare global {
  namespace App {
    interface Locals {
      app: Services;
      person: SignedIn | null;
      /** Of this request, in the log and on the page that says what went wrong. */
      number: string;
    }
    interface Error {
      message: string;
    }
  }
}
