import { median } from 'simple-statistics';

/** The middle of some numbers, or the mean of the two in the middle; 0 of none. */
export const medianOf = (numbers: number[]): number => (numbers.length > 0 ? median(numbers) : 0);
