import { Node } from 'prosemirror-model';
import type { Authorship } from '$core/history/authorship';
import { compare, type Difference } from '$core/history/compare';
import { authorshipIn, momentIn, type Stretch } from '$core/history/moment';
import { schema } from '$core/page/schema';

/** What the worker is asked, by what it answers. */
export interface Questions {
  moment: { asks: { stretch: Stretch; version: number }; made: MadeMoment };
  differences: { asks: { was: object; is: object }; made: Difference[] };
}
export interface MadeMoment {
  doc: object;
  authorship: Authorship;
}

export type MomentQuestion = {
  [K in keyof Questions]: { no: number; kind: K } & Questions[K]['asks'];
}[keyof Questions];
export interface MomentAnswer {
  no: number;
  /** Null when it cannot be made. */
  made: Questions[keyof Questions]['made'] | null;
}

function answer(question: MomentQuestion): MomentAnswer['made'] {
  if (question.kind === 'differences')
    return compare(Node.fromJSON(schema, question.was), Node.fromJSON(schema, question.is));
  const { stretch, version } = question;
  const doc = momentIn(stretch, version).toJSON() as object;
  return { doc, authorship: authorshipIn(stretch, version) };
}

/** Makes pages and compares them beside the view, so that dragging stays smooth however many steps there are. */
self.addEventListener('message', ({ data }: MessageEvent<MomentQuestion>) => {
  let made: MomentAnswer['made'] = null;
  try {
    made = answer(data);
  } catch (error) {
    console.error(error);
  }
  self.postMessage({ no: data.no, made } satisfies MomentAnswer);
});
