import { json, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { allowOnAssignment } from '$server/access/allow';
import { acceptAnswer, previewAccept } from '$server/copy/accept-answer';
import { commentPart, PartComment, PartUncomment, uncommentPart } from '$server/copy/comment-part';
import { setApart } from '$server/copy/piles-apart';
import { PartScores, scorePart } from '$server/copy/score-part';
import { readJson } from '$server/http/body';

const accepted = {
  page: z.uuid(),
  part: z.string().max(200),
  answers: z.array(z.string().min(1).max(500)).min(1).max(50),
};
const PartMove = z.discriminatedUnion('move', [
  PartScores.extend({ move: z.literal('score') }),
  PartComment.extend({ move: z.literal('comment') }),
  PartUncomment.extend({ move: z.literal('uncomment') }),
  z.object({
    move: z.literal('apart'),
    copy: z.uuid(),
    part: z.string().max(200),
    apart: z.boolean(),
  }),
  /** Who would gain or lose by it, and then that it is so. */
  z.object({ move: z.literal('preview'), ...accepted }),
  z.object({ move: z.literal('accept'), ...accepted }),
]);

/** What the staff do with one part of several copies. */
export const POST = allowOnAssignment(
  'mark its copies',
  async ({ request }: RequestEvent, { app, grant }) => {
    const asked = await readJson(request, PartMove);
    switch (asked.move) {
      case 'score':
        return json(await scorePart(app, grant, asked));
      case 'comment':
        return json(await commentPart(app, grant, asked));
      case 'uncomment':
        return json(await uncommentPart(app, grant, asked));
      case 'apart':
        await setApart(app, grant, asked);
        return json({});
      case 'preview':
        return json(await previewAccept(app, grant, asked));
      case 'accept':
        return json({ changed: await acceptAnswer(app, grant, asked) });
    }
  },
);
