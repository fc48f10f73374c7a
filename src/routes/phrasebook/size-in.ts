/** Where a picture stands in a square so that all of it is seen: in the units of the square's side. */
export function sizeIn({ width, height }: { width: number; height: number }, side: number) {
  const scale = side / Math.max(width, height, 1);
  const [w, h] = [width * scale, height * scale];
  return { x: (side - w) / 2, y: (side - h) / 2, width: w, height: h };
}
