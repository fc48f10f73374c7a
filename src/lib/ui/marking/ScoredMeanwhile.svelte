<script lang="ts">
  import type { ScoringForm } from './scoring-form.svelte';

  interface Props {
    form: ScoringForm;
    /** The last score of the copy: an id. */
    score: string | null;
    save: () => void;
    says?: string;
    /** What takes over what is saved. */
    take?: string;
    /** It was taken over. */
    taken?: () => void;
  }
  /** Somebody else scored a copy after this scoring was begun: one of the two counts. */
  let {
    form,
    score,
    save,
    says = 'Somebody else scored this copy meanwhile.',
    take = 'Take theirs',
    taken,
  }: Props = $props();
</script>

<div class="notice basis-full" role="alert">
  <p>{says} What you chose is still here.</p>
  <button
    type="button"
    class="act act-small mt-1"
    onclick={() => {
      form.forget();
      taken?.();
    }}>{take}</button
  >
  <button
    type="button"
    class="act act-small mt-1"
    onclick={() => {
      form.follow(score);
      save();
    }}>Save mine over it</button
  >
</div>
