import { z } from 'zod';
import { grouped } from '../lists/grouped';
import { plainWord } from '../text/plain-word';
import { readCsv } from './csv';

/** A list of curriculum codes, parents before their children. */
export interface CodeList {
  title: string;
  codes: {
    code: string;
    statement: string;
    /** The place of its parent in the list; null for none. */
    parent: number | null;
  }[];
  /** What was passed over, in words. */
  passed: string[];
}
type CodeRead = CodeList | { fault: string };

const MOST_CODES = 10_000;

interface Item {
  /** What others name as their parent. */
  key: string;
  code: string;
  statement: string;
  parent: string | null;
}

/**
 * Puts parents before their children and names what cannot stand.
 * @param root the key of the list itself, which a code may name as what it stands under
 */
function inOrder(title: string, items: readonly Item[], passed: string[], root = ''): CodeRead {
  if (items.length > MOST_CODES)
    return { fault: `The file has ${items.length} codes; a list has at most ${MOST_CODES}.` };
  const known = new Set(items.map(({ key }) => key));
  const children = grouped(items, ({ parent }) => (parent && known.has(parent) ? parent : ''));
  for (const { code, statement, parent } of items)
    if (parent && parent !== root && !known.has(parent))
      passed.push(
        `what “${code || statement.slice(0, 60)}” stands under, which the file does not have`,
      );
  const codes: CodeList['codes'] = [];
  // By hand, not by calling itself: a list may go down as deep as it is long.
  const under = (of: string, parent: number | null) =>
    (children.get(of) ?? []).map((item) => ({ item, parent })).reverse();
  const next = under('', null);
  for (let one = next.pop(); one; one = next.pop()) {
    const { key, code, statement } = one.item;
    codes.push({
      code: code.slice(0, 100),
      statement: statement.slice(0, 2000),
      parent: one.parent,
    });
    if (key) next.push(...under(key, codes.length - 1));
  }
  if (codes.length < items.length)
    passed.push(
      `${items.length - codes.length} codes that are, round about, parents of themselves`,
    );
  if (codes.length === 0) return { fault: 'The file names no codes.' };
  return { title, codes, passed };
}

const HEADERS = {
  code: [
    'code',
    'identifier',
    'id',
    'number',
    'humancodingscheme',
    'human coding scheme',
    'short code',
  ],
  statement: [
    'statement',
    'fullstatement',
    'full statement',
    'description',
    'text',
    'title',
    'standard',
    'outcome',
  ],
  parent: ['parent', 'parent code', 'parentcode', 'within', 'belongs to'],
};

/** Codes from delimited text: a column for the code, one for what it says, and perhaps one for the code it stands under. */
export function codesFromCsv(title: string, text: string): CodeRead {
  const csv = readCsv(text);
  if ('fault' in csv) return csv;
  const [head, ...rows] = csv.rows;
  const words = (head?.fields ?? []).map(plainWord);
  const find = (names: readonly string[]) => words.findIndex((word) => names.includes(word));
  const columns = {
    code: find(HEADERS.code),
    statement: find(HEADERS.statement),
    parent: find(HEADERS.parent),
  };
  if (columns.code < 0 || columns.statement < 0)
    return { fault: 'The first line needs a column “code” and a column “statement”.' };
  const passed: string[] = [];
  const seen = new Set<string>();
  const items: Item[] = [];
  for (const { line, fields } of rows) {
    const code = fields[columns.code]?.trim() ?? '';
    const statement = fields[columns.statement]?.trim() ?? '';
    if (!code || !statement)
      passed.push(`line ${line}, which has no ${code ? 'statement' : 'code'}`);
    else if (seen.has(code)) passed.push(`line ${line}, whose code ${code} stands there already`);
    else items.push({ key: code, code, statement, parent: fields[columns.parent]?.trim() || null });
    seen.add(code);
  }
  return inOrder(title, items, passed);
}

const Link = z.object({ identifier: z.string() });

/** A package as 1EdTech CASE (Competencies and Academic Standards Exchange) 1.0 and 1.1 give it: CFPackage. */
const CasePackage = z.object({
  CFDocument: z.object({ identifier: z.string().default(''), title: z.string().default('') }),
  CFItems: z.array(
    z.object({
      identifier: z.string(),
      fullStatement: z.string(),
      humanCodingScheme: z.string().nullish(),
    }),
  ),
  CFAssociations: z
    .array(
      z.object({
        associationType: z.string(),
        originNodeURI: Link,
        destinationNodeURI: Link,
        sequenceNumber: z.number().nullish(),
      }),
    )
    .default([]),
});

/** Codes from a CASE JSON file: children follow their parents by the associations "isChildOf", in their sequence. */
export function codesFromCase(text: string): CodeRead {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return {
      fault: 'This file is not JSON. A CASE file comes from the publisher of the curriculum.',
    };
  }
  const read = CasePackage.safeParse(json);
  if (!read.success) {
    const where = read.error.issues[0]?.path.join('.') ?? '';
    return {
      fault: `This is not a CASE package: ${where || 'CFDocument'} is missing or is no such thing.`,
    };
  }
  const parents = new Map<string, { parent: string; sequence: number }>();
  for (const association of read.data.CFAssociations)
    if (association.associationType === 'isChildOf')
      parents.set(association.originNodeURI.identifier, {
        parent: association.destinationNodeURI.identifier,
        sequence: association.sequenceNumber ?? Infinity,
      });
  const sequence = (id: string) => parents.get(id)?.sequence ?? Infinity;
  const items = read.data.CFItems.map(({ identifier, fullStatement, humanCodingScheme }) => ({
    key: identifier,
    code: humanCodingScheme?.trim() || '',
    statement: fullStatement.trim(),
    parent: parents.get(identifier)?.parent ?? null,
  }));
  const sorted = items
    .map((item, index) => ({ item, index }))
    .sort((a, b) => {
      const [one, other] = [sequence(a.item.key), sequence(b.item.key)];
      return one === other ? a.index - b.index : one - other;
    })
    .map(({ item }) => item);
  const signless = sorted.filter(({ code }) => code === '').length;
  const passed =
    signless > 0
      ? [`a code of ${signless === 1 ? '1 item that has' : `${signless} items that have`} none`]
      : [];
  const { title, identifier } = read.data.CFDocument;
  return inOrder(title.trim(), sorted, passed, identifier);
}
