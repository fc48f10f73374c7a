/** Who looks into a margin: its students do not see what is kept back from them. */
export interface Viewer {
  id: string;
  isStudent: boolean;
}

export const viewerOf = ({ id, role }: { id: string; role: string }): Viewer => ({
  id,
  isStudent: role === 'student',
});
