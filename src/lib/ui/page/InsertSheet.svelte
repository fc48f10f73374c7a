<script lang="ts">
  import type { Mark } from 'prosemirror-model';
  import { NodeSelection, type EditorState } from 'prosemirror-state';
  import type { EditorView } from 'prosemirror-view';
  import { untrack } from 'svelte';
  import { isSafeLink, PICTURE_WIDTHS, schema } from '$core/page/schema';
  import Choice from '$ui/fields/Choice.svelte';
  import Sheet from '$ui/shell/Sheet.svelte';

  interface Props {
    view: EditorView;
    what: 'link' | 'formula' | 'picture';
    done: () => void;
  }
  let { view, what, done }: Props = $props();

  const { nodes, marks } = schema;
  const TITLES = { link: 'Link', formula: 'Formula', picture: 'Picture' };

  /** The link that the cursor is in, with its ends. */
  function linkAround({ selection: { $from }, doc }: EditorState) {
    const mark =
      marks.link.isInSet($from.marks()) ?? marks.link.isInSet($from.nodeAfter?.marks ?? []);
    if (!mark) return null;
    const has = (place: number, it: Mark) =>
      doc.nodeAt(place)?.marks.some((one) => one.eq(it)) ?? false;
    let [from, to] = [$from.pos, $from.pos];
    while (from > $from.start() && has(from - 1, mark)) from--;
    while (to < $from.end() && has(to, mark)) to++;
    return { mark, from, to };
  }
  const selected = untrack(() =>
    view.state.selection instanceof NodeSelection ? view.state.selection.node : null,
  );
  const link = untrack(() => (what === 'link' ? linkAround(view.state) : null));
  const formula = untrack(() =>
    what === 'formula' && selected?.type === nodes.formula ? selected : null,
  );
  const isChange = link !== null || formula !== null || untrack(() => what) === 'picture';

  let text: string = $state(
    untrack(() => {
      if (what === 'picture') return selected?.attrs.alt ?? '';
      return link?.mark.attrs.href ?? formula?.attrs.tex ?? '';
    }),
  );
  let width = $state(untrack(() => String(selected?.attrs.width ?? 100)));
  let trouble = $state('');
  let open = $state(true);

  const close = () => (open = false);
  /** By itself a browser puts the cursor where the page begins. */
  const backTo = () => {
    view.focus();
    return view.dom;
  };
  function insertLink() {
    const { tr, selection } = view.state;
    const href = /^[a-z]+:/i.test(text.trim()) ? text.trim() : `https://${text.trim()}`;
    if (!isSafeLink(href)) return (trouble = 'A link begins with https:// or mailto:.');
    const mark = marks.link.create({ href });
    if (link)
      view.dispatch(
        tr.removeMark(link.from, link.to, marks.link).addMark(link.from, link.to, mark),
      );
    else if (selection.empty)
      view.dispatch(tr.replaceSelectionWith(schema.text(href, [mark]), false));
    else view.dispatch(tr.addMark(selection.from, selection.to, mark));
    close();
  }
  function changePicture() {
    const { tr, selection } = view.state;
    const attrs = { ...selected?.attrs, alt: text.trim(), width: Number(width) };
    const changed = tr.setNodeMarkup(selection.from, null, attrs);
    view.dispatch(changed.setSelection(NodeSelection.create(changed.doc, selection.from)));
    close();
  }
  function submit(event: SubmitEvent) {
    event.preventDefault();
    trouble = '';
    if (what === 'picture') return changePicture();
    if (!text.trim()) return;
    if (what === 'link') return insertLink();
    view.dispatch(view.state.tr.replaceSelectionWith(nodes.formula.create({ tex: text.trim() })));
    close();
  }
  function removeLink() {
    if (link) view.dispatch(view.state.tr.removeMark(link.from, link.to, marks.link));
    close();
  }
  // The dialog gives the focus back before it goes.
  $effect(() => {
    if (!open) setTimeout(done);
  });
</script>

<Sheet bind:open title={TITLES[what]} {backTo}>
  <form onsubmit={submit}>
    <label class="mt-3 block"
      ><span class="label"
        >{what === 'formula'
          ? 'In TeX, such as h = \\frac{r}{12}'
          : what === 'link'
            ? 'Where it leads'
            : 'What it shows, for whoever cannot see it'}</span
      >
      <input
        class="field"
        bind:value={text}
        required={what !== 'picture'}
        maxlength={what === 'picture' ? 1000 : 2000}
      /></label
    >
    {#if what === 'picture'}
      <div class="mt-3">
        <Choice
          label="Width, of the page"
          bind:value={width}
          options={PICTURE_WIDTHS.map((one) => [String(one), `${one} %`] as const)}
        />
      </div>
    {/if}
    {#if trouble}<p class="trouble mt-2" role="alert">{trouble}</p>{/if}
    <div class="mt-4 flex justify-end gap-2">
      {#if link}<button type="button" class="act act-plain" onclick={removeLink}>Remove link</button
        >{/if}
      <button type="button" class="act" onclick={close}>Cancel</button>
      <button class="act act-main">{isChange ? 'Save' : 'Insert'}</button>
    </div>
  </form>
</Sheet>
