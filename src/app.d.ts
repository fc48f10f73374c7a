import type { SignedIn } from '$server/access/session';
import type { App as Uncia } from '$server/app';

declare global {
  namespace App {
    interface Locals {
      app: Uncia;
      person: SignedIn | null;
    }
    interface Error {
      message: string;
    }
  }
}
