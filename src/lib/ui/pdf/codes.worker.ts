import jsQR from 'jsqr';

/** A drawn page, to be looked at for a code. */
export interface CodeQuestion {
  no: number;
  pixels: Uint8ClampedArray;
  width: number;
  height: number;
}
export interface CodeAnswer {
  no: number;
  /** What the code says; null where there is none. */
  code: string | null;
}

addEventListener('message', ({ data }: MessageEvent<CodeQuestion>) => {
  const { no, pixels, width, height } = data;
  const code = jsQR(pixels, width, height)?.data ?? null;
  postMessage({ no, code } satisfies CodeAnswer);
});
