import { randomBytes } from 'node:crypto';

/**
 * New ids whose order is that of their numbers (UUID version 8, RFC 9562): what is written from them again gets the same
 * numbers. @returns the id of a number from 1
 */
export function ascendingIds(): (n: number) => string {
  const random = randomBytes(9).toString('hex');
  const head = `${random.slice(0, 8)}-${random.slice(8, 12)}-8${random.slice(12, 15)}-8${random.slice(15, 18)}`;
  return (n) => `${head}-${n.toString(16).padStart(12, '0')}`;
}
