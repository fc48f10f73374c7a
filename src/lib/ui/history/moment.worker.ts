import type { Authorship } from '$core/history/authorship';
import { authorshipIn, momentIn, type Stretch } from '$core/history/moment';

export interface MomentQuestion {
  no: number;
  stretch: Stretch;
  version: number;
}
export interface MomentAnswer {
  no: number;
  /** Null when it cannot be made. */
  made: { doc: object; authorship: Authorship } | null;
}

/** Makes the page at a moment, so that dragging stays smooth however many steps there are. */
self.addEventListener('message', ({ data }: MessageEvent<MomentQuestion>) => {
  const { no, stretch, version } = data;
  let answer: MomentAnswer = { no, made: null };
  try {
    const doc = momentIn(stretch, version).toJSON() as object;
    answer = { no, made: { doc, authorship: authorshipIn(stretch, version) } };
  } catch (error) {
    console.error(error);
  }
  self.postMessage(answer);
});
