import { sayToDue, sayWhere, sayWhereShortly, type Hours } from '$core/board/hours';
import type { Lens } from '$core/board/board-view';
import { lengthOf } from '$core/calendar/say-time';
import { gradeCell } from '$core/grades/gradebook';
import { writePoints } from '$core/marking/points';
import { fullLabel, secondLine, type BoardCell } from './board-cells';

/** What a cell says in a lens: beside its rosette in two lines, and all of it for whoever does not see its marks. */
export interface CellWords {
  first: string;
  second: string;
  label: string;
}

interface About {
  student: { id: string; name: string };
  assignment: { title: string; points: string | null; due: number | null };
  cell: BoardCell;
  /** When its student worked on it, as far as that is known. */
  hours: Hours | null;
  now: number;
  sayWhen: (at: number) => string;
}

function inWork({ student, assignment, cell, sayWhen }: About): CellWords {
  return {
    first: cell.flags.now ? 'writing now' : cell.says,
    second: secondLine(cell, sayWhen),
    label: fullLabel(student.name, assignment.title, cell),
  };
}

function inPoints(about: About): CellWords {
  const { student, assignment, cell, now } = about;
  const name = `${student.name}, ${assignment.title}`;
  const most = assignment.points;
  if (most === null || cell.delivery === 'to read')
    return { first: '–', second: '', label: `${name}: no points` };
  const { got, kept, says } = gradeCell(cell, student.id, now);
  const back = typeof got === 'object' ? got.points : null;
  const points = kept ?? back;
  const first = points === null ? says || '–' : writePoints(points);
  const second = kept === null ? '' : 'not handed back';
  const of = points === null ? says || 'no points yet' : `${first} of ${writePoints(most)} points`;
  return { first, second, label: [`${name}: ${of}`, second].filter(Boolean).join(', ') };
}

function inHours({ student, assignment, cell, hours }: About): CellWords {
  const name = `${student.name}, ${assignment.title}`;
  if (!hours) return { first: '–', second: '', label: `${name}: not worked on` };
  const [first, where] = [lengthOf(hours.time), sayWhere(hours)];
  const all = [first, where, sayToDue(hours, cell.own.due)].filter(Boolean).join('; ');
  return { first, second: sayWhereShortly(hours), label: `${name}: ${all}` };
}

const WORDS = { work: inWork, gaps: inWork, points: inPoints, hours: inHours };

export const wordsIn = (lens: Lens, about: About): CellWords => WORDS[lens](about);
