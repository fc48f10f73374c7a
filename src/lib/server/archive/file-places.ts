import { FileNames } from '$core/archive/file-names';
import type { OwnedPage } from './archived-pages';

/** A file of an archive, and what leads to it is called. */
export interface Placed {
  path: string;
  says: string;
}

/** Gives every page its place among the files, in the order of their numbers. */
export class FilePlaces {
  private readonly folders = new FileNames();
  private readonly shared = new FileNames();
  private readonly files = new Map<string, FileNames>();
  private readonly ofStudent = new Map<string, string>();
  private readonly ofGroup = new Map<string, string>();

  constructor(
    students: readonly { id: string; family: string; given: string }[],
    private readonly student: string | null,
  ) {
    for (const { id, family, given } of students)
      this.ofStudent.set(id, `students/${this.folders.give(`${family}, ${given}`)}`);
  }

  folderOf(page: OwnedPage): string {
    if (this.student !== null && page.kind !== 'original' && page.kind !== 'reading')
      return this.ofStudent.get(this.student) ?? 'students';
    if (page.student !== null) return this.ofStudent.get(page.student) ?? 'students/others';
    if (page.kind !== 'copy') return 'materials';
    const group = page.group || 'Whole class';
    const known = this.ofGroup.get(group) ?? `shared/${this.shared.give(group)}`;
    this.ofGroup.set(group, known);
    return known;
  }

  give(folder: string, title: string, ending: string): string {
    const names = this.files.get(folder) ?? new FileNames();
    this.files.set(folder, names);
    return `${folder}/${names.give(title, ending)}`;
  }
}

/** From a file to the folder above all of them. */
export const up = (path: string) => '../'.repeat(path.split('/').length - 1);
