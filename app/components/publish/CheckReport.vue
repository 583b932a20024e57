<script setup lang="ts">
/** What was checked before it went out, and what is wrong with it. */
const publish = usePublish()
const report = computed(() => publish.report!)
const said = computed(() => {
  const r = report.value
  const of = (n: number, one: string, many = `${one}s`) => (n ? [`${n} ${n === 1 ? one : many}`] : [])
  return [
    ...of(r.replays, 'replay'),
    ...of(r.pictures, 'picture'),
    ...of(r.sounds, 'stretch of sound', 'stretches of sound'),
    ...of(r.captions, 'caption file'),
    ...of(r.videos, 'video'),
  ].join(', ')
})
</script>

<template>
  <section
    class="mt-4 border-l-4 pl-4"
    :class="report.faults.length ? 'border-(--ui-error)' : 'border-(--ui-success)'"
    data-part="check-report"
    :data-report="JSON.stringify(report)"
  >
    <p
      v-if="!report.faults.length"
      class="flex items-start gap-2"
    >
      <UIcon
        name="i-lucide-check"
        class="mt-1 shrink-0 text-(--ui-success)"
      />
      <span
        >Opened again and checked: {{ said }}, in {{ (report.ms / 1000).toFixed(1) }} s.
        <template v-if="!report.played">The page was not seen to play, as this tab was not in front.</template></span
      >
    </p>
    <template v-else>
      <p class="flex items-center gap-2 font-semibold">
        <UIcon name="i-lucide-triangle-alert" /> Nothing went out: {{ report.faults.length }}
        {{ report.faults.length === 1 ? 'check' : 'checks' }} failed.
      </p>
      <ul class="mt-1 flex max-h-48 flex-col gap-1.5 overflow-y-auto">
        <li
          v-for="(f, i) in report.faults"
          :key="i"
        >
          <code class="break-all">{{ f.file }}</code> {{ f.what }}. <span class="text-toned">{{ f.next }}</span>
        </li>
      </ul>
    </template>
  </section>
</template>
