/** A list's entries by what `key` says of each, in their order. */
export function grouped<Entry, Key>(
  list: readonly Entry[],
  key: (entry: Entry) => Key,
): Map<Key, Entry[]> {
  const groups = new Map<Key, Entry[]>();
  for (const entry of list) {
    const group = groups.get(key(entry));
    if (group) group.push(entry);
    else groups.set(key(entry), [entry]);
  }
  return groups;
}
