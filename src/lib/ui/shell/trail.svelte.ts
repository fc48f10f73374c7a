import { page } from '$app/state';

interface Step {
  title: string;
  to?: string;
}

/** The way to the view that is open, and its title: the last step, which an open page may rename. */
class Trail {
  private renamed: string | null = $state(null);

  get steps(): Step[] {
    const steps: Step[] = page.data.trail ?? [];
    const { renamed } = this;
    return renamed === null
      ? steps
      : steps.map((step, at) => (at === steps.length - 1 ? { ...step, title: renamed } : step));
  }

  get title(): string | undefined {
    return this.steps.at(-1)?.title ?? page.data.title;
  }

  /** Calls the view that is open by another title. For an effect. @returns what ends it */
  rename(title: string): () => void {
    this.renamed = title;
    return () => (this.renamed = null);
  }
}

export const trail = new Trail();
