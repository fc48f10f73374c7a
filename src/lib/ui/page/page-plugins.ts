import { baseKeymap, chainCommands, exitCode, toggleMark } from 'prosemirror-commands';
import { dropCursor } from 'prosemirror-dropcursor';
import { gapCursor } from 'prosemirror-gapcursor';
import { history, redo } from 'prosemirror-history';
import { inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules';
import { keymap } from 'prosemirror-keymap';
import { liftListItem, sinkListItem, splitListItem } from 'prosemirror-schema-list';
import type { Command, Plugin } from 'prosemirror-state';
import { goToNextCell, tableEditing } from 'prosemirror-tables';
import { schema } from '$core/page/schema';
import { answerHints, answerKeys, giveIds, guardText } from './answers';
import { pasting } from './paste';

const { nodes, marks } = schema;

const breakLine: Command = chainCommands(exitCode, (state, dispatch) => {
  if (!state.selection.$from.parent.type.contentMatch.matchType(nodes.line_break)) return false;
  dispatch?.(state.tr.replaceSelectionWith(nodes.line_break.create()).scrollIntoView());
  return true;
});

const keys: Record<string, Command> = {
  'Mod-y': redo,
  'Mod-Shift-z': redo,
  'Mod-b': toggleMark(marks.strong),
  'Mod-i': toggleMark(marks.emphasis),
  'Mod-u': toggleMark(marks.underline),
  Enter: splitListItem(nodes.list_item),
  'Shift-Enter': breakLine,
  Tab: sinkListItem(nodes.list_item),
  'Shift-Tab': liftListItem(nodes.list_item),
};

/** What a line's first signs turn it into. */
const lineRules = inputRules({
  rules: [
    wrappingInputRule(/^\s*([-*])\s$/, nodes.bullet_list),
    wrappingInputRule(/^(\d+)\.\s$/, nodes.ordered_list, (match) => ({ order: Number(match[1]) })),
    textblockTypeInputRule(/^```$/, nodes.code_lines),
    textblockTypeInputRule(/^(#{1,3})\s$/, nodes.heading, (match) => ({
      level: match[1]?.length ?? 1,
    })),
  ],
});

export interface PageManner {
  /** An original is written with its places for answers; a copy is answered; a reading is only read. */
  kind: 'original' | 'reading' | 'copy';
  /** Whether the page's own text is kept from this person now; left out where it never is. */
  guarded?: () => boolean;
  warn: (sentence: string) => void;
}

/** The editor's plugins for a page in someone's hands. */
export function pagePlugins({ kind, guarded, warn }: PageManner): Plugin[] {
  const original = kind === 'original';
  return [
    ...(guarded ? [guardText(guarded, warn)] : []),
    ...(original ? [giveIds] : []),
    answerKeys(original),
    answerHints,
    pasting({ original, warn }),
    lineRules,
    keymap({ Tab: goToNextCell(1), 'Shift-Tab': goToNextCell(-1) }),
    keymap(keys),
    keymap(baseKeymap),
    history(),
    dropCursor(),
    gapCursor(),
    ...(kind === 'copy' ? [] : [tableEditing()]),
  ];
}
