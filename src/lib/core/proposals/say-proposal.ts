import type { ProposalState, ProposalWords } from './proposal';

/** What a proposal does, in a line, with its words in bold; `words` is null where it has none. */
export interface SaidProposal {
  before: string;
  words: string | null;
  after: string;
}

/** A proposal in words: "goes for go". */
export function sayProposal({ kind, was, becomes }: ProposalWords): SaidProposal {
  switch (kind) {
    case 'insert':
      return { before: '+ ', words: becomes, after: '' };
    case 'delete':
      return { before: '− ', words: was, after: '' };
    case 'replace':
      return { before: '', words: becomes, after: ` for ${was}` };
    case 'divide':
      return { before: 'A new paragraph here: ', words: was || null, after: '' };
    case 'join':
      return { before: 'Join the paragraphs: ', words: was || null, after: '' };
    case 'format':
      return { before: '', words: was || null, after: ` ${becomes}` };
    case 'indent':
      return { before: 'Indent ', words: was || null, after: '' };
    case 'outdent':
      return { before: 'Less indent for ', words: was || null, after: '' };
    case 'block':
      return { before: '', words: was || null, after: ` as ${becomes}` };
    case 'move':
      return { before: 'Move ', words: was || null, after: '' };
    case 'change':
      return { before: 'Change ', words: was || becomes || null, after: '' };
  }
}

/** What became of it; `by` is "you" or a name. */
export const sayState = (state: ProposalState, by: string): string =>
  ({ open: '', taken: `taken by ${by}`, left: `left by ${by}`, withdrawn: `withdrawn by ${by}` })[
    state
  ];
