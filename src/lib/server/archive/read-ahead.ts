/**
 * What one read after the other gives: while something is made of one, the next is on its way. Never two at once: they
 * share a connection.
 */
export async function* readAhead<T>(reads: Iterable<() => Promise<T>>): AsyncGenerator<T> {
  let coming: Promise<T> | null = null;
  for (const read of reads) {
    const here: Awaited<T> | null = coming && (await coming);
    const was = coming !== null;
    coming = read();
    // Whoever takes it hears of a failure; until then nobody does.
    coming.catch(() => undefined);
    if (was) yield here as T;
  }
  if (coming) yield await coming;
}
