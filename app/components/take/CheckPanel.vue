<script setup lang="ts">
import type { Question } from '#core/folio'
import { deviceFinding, type Finding } from '#core/sound'

/** What has to be right before a take, checked by itself: one line for each, with the mend beside it. */
const props = defineProps<{ question: Question }>()
const check = useCheck()
const recording = useRecording()
const open = ref(false)
const SIGNS = { holds: 'i-lucide-check', warns: 'i-lucide-circle-alert', fails: 'i-lucide-circle-x' } as const

onMounted(() => {
  void check.measureRoom()
  if (!check.heard) void check.listen()
})
const settings = useSettings()
/** Whether it is the right microphone at all; a simulated one is nobody's mistake. */
const device = computed(() => {
  const { chosen, microphones } = recording
  if (chosen.simulated || chosen.id === 'none' || !microphones.length) return null
  // A browser lists the same device once more as its default.
  const others = microphones
    .filter(m => m.id.startsWith('device:') && m.id !== chosen.id && m.id !== 'device:default')
    .map(m => m.label)
  return deviceFinding(
    chosen.label,
    microphones.some(m => m.id === chosen.id),
    settings.remembered.microphone === chosen.id,
    others,
  )
})
const sound = computed<Finding[]>(() =>
  recording.chosen.id === 'none'
    ? [
        {
          id: 'none',
          state: 'warns',
          says: 'Ink only, without a voice.',
          mend: 'Choose a microphone above, or talk over it afterwards.',
        },
      ]
    : [...(device.value ? [device.value] : []), ...(check.heard ?? [])],
)
const all = computed(() => [...sound.value, ...(check.room ? [check.room] : []), ...check.ofQuestion(props.question)])
const wrong = computed(() => all.value.filter(f => f.state !== 'holds'))
const shown = computed(() => (open.value ? all.value : wrong.value))
</script>

<template>
  <section
    class="shrink-0 border-b border-(--rule)"
    aria-label="Check before the take"
    data-part="check"
  >
    <button
      type="button"
      class="flex min-h-11 w-full items-center gap-2 px-4 text-left"
      :aria-expanded="open"
      @click="open = !open"
    >
      <UIcon
        :name="wrong.length ? 'i-lucide-circle-alert' : 'i-lucide-check'"
        class="size-5 shrink-0"
        :class="wrong.length ? 'text-(--taking)' : 'text-(--holds)'"
      />
      <span class="grow text-sm font-semibold">
        <template v-if="check.listening">Listening</template>
        <template v-else-if="wrong.length"
          >{{ wrong.length === 1 ? 'One thing' : `${wrong.length} things` }} to look at</template
        >
        <template v-else>All is ready</template>
      </span>
      <LevelBar
        v-if="check.listening"
        :level="check.level"
      />
      <UIcon
        v-else
        :name="open ? 'i-lucide-chevron-up' : 'i-lucide-chevron-down'"
        class="size-4 text-toned"
      />
    </button>
    <ul
      v-if="shown.length"
      class="max-h-40 overflow-y-auto pb-2 text-sm"
    >
      <li
        v-for="f in shown"
        :key="f.id"
        class="flex gap-2 px-4 py-0.5"
        :data-state="f.state"
      >
        <UIcon
          :name="SIGNS[f.state]"
          class="mt-0.5 size-4 shrink-0"
          :class="f.state === 'holds' ? 'text-(--holds)' : 'text-(--taking)'"
          :aria-label="f.state"
        />
        <span
          >{{ f.says }} <span class="text-toned">{{ f.mend }}</span></span
        >
      </li>
    </ul>
    <UButton
      v-if="open && recording.chosen.id !== 'none' && !check.listening"
      color="neutral"
      variant="outline"
      class="mx-4 mb-2 h-11"
      icon="i-lucide-ear"
      @click="check.listen(true)"
    >
      Listen again
    </UButton>
    <p
      v-else-if="!check.listening && !check.heard && recording.chosen.id !== 'none'"
      class="px-4 pb-2 text-sm"
    >
      The microphone was not heard yet.
      <UButton
        variant="link"
        class="p-0"
        @click="check.listen(true)"
      >
        Listen
      </UButton>
    </p>
  </section>
</template>
