import { Decimal as Standard } from 'decimal.js';

/** Decimals that are divided with so many digits that none of those that are shown is ever wrong. Half up. */
export const Decimal = Standard.clone({ precision: 60, rounding: Standard.ROUND_HALF_UP });
