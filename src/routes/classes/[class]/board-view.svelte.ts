import { goto } from '$app/navigation';
import { page } from '$app/state';
import { readView, writeView, type BoardView } from '$core/board/board-view';

/** How somebody looks at the board, which is what the address says. */
export class ViewInAddress {
  readonly now: BoardView = $derived(readView(page.url.searchParams));

  /** By how many things the cells that are shown are chosen. */
  get chosen(): number {
    const { marks, unit, group } = this.now;
    return marks.length + (unit ? 1 : 0) + (group ? 1 : 0);
  }

  /** But for another moment nothing is read of the server for it: it works while that is away, too. */
  choose(change: Partial<BoardView>): void {
    const search = writeView({ ...this.now, ...change }).toString();
    const way = { replaceState: true, keepFocus: true, noScroll: true };
    void goto(search ? `?${search}` : page.url.pathname, way);
  }

  /** Everything again, in the order that was chosen. */
  clear(): void {
    this.choose({ marks: [], unit: '', group: '' });
  }
}
