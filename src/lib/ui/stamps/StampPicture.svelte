<script lang="ts">
  import type { Stamp } from '$core/stamps/stamp';
  import { stampSign } from './stamp-sign';
  import './stamps.css';

  interface Props {
    stamp: Stamp;
    /** In pixels. */
    size?: number;
  }
  let { stamp, size = 32 }: Props = $props();
</script>

<span
  class="stamp-picture"
  style:width="{size}px"
  style:height="{size}px"
  {@attach (place) => place.replaceChildren(stampSign(stamp))}
></span>
