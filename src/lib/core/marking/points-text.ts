import Decimal from 'decimal.js';
import { z } from 'zod';

/** Points as they are kept: a decimal text with at most two places. */
export const KeptPoints = z
  .string()
  .regex(/^\d{1,6}(\.\d{1,2})?$/, 'Points are a number such as 6, 6½ or 6.5.');

/** The same as somebody gives them, as the shortest text for their number. */
export const PointsText = KeptPoints.transform((text) => new Decimal(text).toString());
