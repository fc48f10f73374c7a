import { momentIn, type Stretch } from '$core/history/moment';

export interface MomentQuestion {
  no: number;
  stretch: Stretch;
  version: number;
}
export type MomentAnswer = { no: number; doc: object } | { no: number; doc: null };

/** Makes the page at a moment, so that dragging stays smooth however many steps there are. */
self.addEventListener('message', ({ data }: MessageEvent<MomentQuestion>) => {
  const { no, stretch, version } = data;
  let answer: MomentAnswer = { no, doc: null };
  try {
    answer = { no, doc: momentIn(stretch, version).toJSON() as object };
  } catch (error) {
    console.error(error);
  }
  self.postMessage(answer);
});
