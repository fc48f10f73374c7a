import { isIPv6 } from 'node:net';

/**
 * The addresses that one provider or house usually has together: the first 24 bits of IPv4, the first 48 of IPv6 (common
 * practice, no source).
 */
export function rangeOf(address: string): string {
  const plain = address.replace(/^::ffff:(?=\d+\.)/i, '');
  if (!isIPv6(plain)) return plain.split('.').slice(0, 3).join('.');
  const [head = '', tail = ''] = plain.split('::');
  const [first, last] = [head, tail].map((part) => part.split(':').filter(Boolean));
  const zeros = Array(Math.max(0, 8 - (first?.length ?? 0) - (last?.length ?? 0))).fill('0');
  return [...(first ?? []), ...(plain.includes('::') ? zeros : []), ...(last ?? [])]
    .slice(0, 3)
    .map((group) => group.padStart(4, '0'))
    .join(':');
}
