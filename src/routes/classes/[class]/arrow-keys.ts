const STEPS: Record<string, [down: number, right: number]> = {
  ArrowUp: [-1, 0],
  ArrowDown: [1, 0],
  ArrowLeft: [0, -1],
  ArrowRight: [0, 1],
};

/** The next cell in a direction that holds a button; cells without one are passed over. */
function nextButton(cell: HTMLTableCellElement, [down, right]: [number, number]) {
  const row = cell.closest('tr');
  const body = row?.closest('tbody');
  if (!row || !body) return null;
  let [y, x] = [row.sectionRowIndex + down, cell.cellIndex + right];
  for (;;) {
    const next = body.rows[y]?.cells[x];
    if (!next) return null;
    const button = next.querySelector('button');
    if (button) return button;
    y += down;
    x += right;
  }
}

/** Lets the arrow keys go from cell to cell of the table inside. For an `{@attach}`. */
export function arrowKeys(around: HTMLElement): () => void {
  const move = (event: KeyboardEvent) => {
    const step = STEPS[event.key];
    const cell = event.target instanceof Element && event.target.closest('td');
    const next = step && cell && nextButton(cell, step);
    if (!next) return;
    event.preventDefault();
    next.focus();
  };
  around.addEventListener('keydown', move);
  return () => around.removeEventListener('keydown', move);
}
