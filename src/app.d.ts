import type { SignedIn } from '$server/access/session';
import type { App as Uncia } from '$server/app';

declare global {
  namespace App {
    interface Locals {
      app: Uncia;
      person: SignedIn | null;
      /** Of this request, in the log and on the page that says what went wrong. */
      number: string;
    }
    interface Error {
      message: string;
    }
  }
}
