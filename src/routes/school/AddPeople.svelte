<script lang="ts">
  import FileField from '$ui/fields/FileField.svelte';
  import { enhance } from '$ui/refresh';

  let { hasOffice }: { hasOffice: boolean } = $props();
</script>

<section id="add" class="mt-6 border border-rule bg-sheet p-4" aria-labelledby="adding">
  <h2 id="adding" class="font-bold">Add teachers and office staff</h2>
  <form method="POST" action="?/add" use:enhance class="mt-3 flex flex-wrap items-end gap-3">
    <label class="flex-1"
      ><span class="label">Given name</span><input
        class="field"
        name="given"
        maxlength="100"
        required
      /></label
    >
    <label class="flex-1"
      ><span class="label">Family name</span><input
        class="field"
        name="family"
        maxlength="100"
        required
      /></label
    >
    <label class="flex-1"
      ><span class="label">How students call them</span><input
        class="field"
        name="called"
        maxlength="100"
        placeholder="Ms Orrey"
      /></label
    >
    <label class="flex-1"
      ><span class="label">E-mail, if they have one</span><input
        class="field"
        type="email"
        name="email"
      /></label
    >
    <label
      ><span class="label">They are</span><select class="field" name="role">
        <option value="teacher">a teacher</option>
        <option value="office">office staff</option>
      </select></label
    >
    <button class="act act-main">Add</button>
  </form>
  <div class="mt-4 flex flex-wrap items-end gap-x-8 gap-y-3 border-t border-rule pt-3">
    <form
      method="POST"
      action="?/file"
      enctype="multipart/form-data"
      use:enhance
      class="flex flex-wrap items-end gap-3"
    >
      <div class="w-96 max-w-full">
        <FileField
          label="Or many teachers, from a file with given and family names"
          name="list"
          accept={['.csv', '.txt', '.tsv']}
          required
        />
      </div>
      <button class="act">Add from the file</button>
    </form>
    {#if hasOffice}
      <form method="POST" action="?/office" use:enhance>
        <button class="act">Ask the office’s records for teachers</button>
      </form>
    {/if}
  </div>
</section>
