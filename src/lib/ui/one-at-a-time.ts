/**
 * Keeps a question from being asked twice at once, so that an older answer never comes after a newer one. Who asks
 * meanwhile gets the answer of one more question, asked after it.
 */
export function oneAtATime(ask: () => Promise<void>): () => Promise<void> {
  let running: Promise<void> | null = null;
  let again = false;
  async function run() {
    try {
      do {
        again = false;
        await ask();
      } while (again);
    } finally {
      running = null;
    }
  }
  return () => {
    again = true;
    return (running ??= run());
  };
}
