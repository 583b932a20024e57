<script setup lang="ts">
import { HOLDS, TURN_TIMES } from '../../board/turns'
import { PENS } from '../../composables/usePen'

/** What she speaks and writes with, and how a take begins. */
defineEmits<{ practise: [] }>()
const recording = useRecording()
const settings = useSettings()
const pad = usePad()
onMounted(() => {
  void recording.findMicrophones()
})
const microphoneItems = computed(() => recording.microphones.map(m => ({ label: m.label, value: m.id })))
const microphone = computed({
  get: () => recording.chosen.id,
  set: (id: string) => {
    settings.remembered.microphone = id
  },
})
const penItems = PENS.map(p => ({ label: p.label, value: p.id as string }))
const penButtons = [
  { label: 'Held: pointer with a fading trail', value: 'pointer' },
  { label: 'Held: eraser', value: 'eraser' },
  { label: 'Held: straight lines and shapes', value: 'straight' },
  { label: 'Tap: step mark', value: 'step' },
  { label: 'Tap: back a step', value: 'back' },
  { label: 'Tap: your turn', value: 'turn' },
  { label: 'Tap: pause, and go on', value: 'pause' },
  { label: 'Tap: reveal the next held line', value: 'reveal' },
  { label: 'Tap: refer to another question, and back', value: 'refer' },
  { label: 'Tap: on to the next question', value: 'next' },
  { label: 'Tap: record', value: 'record' },
  { label: 'Tap: stop', value: 'stop' },
]
const countdowns = [
  { label: 'No countdown', value: 0 },
  { label: '3 seconds', value: 3 },
  { label: '5 seconds', value: 5 },
]
</script>

<template>
  <UPopover
    @update:open="
      open => {
        if (open) void pad.findAddresses()
      }
    "
  >
    <UButton
      color="neutral"
      variant="outline"
      icon="i-lucide-mic"
      class="max-w-60"
      data-part="devices"
    >
      <span class="truncate">{{ recording.chosen.label }}</span>
    </UButton>
    <template #content>
      <div
        class="grid max-h-[calc(100vh-9rem)] w-184 max-w-[calc(100vw-6rem)] gap-x-8 gap-y-4 overflow-y-auto p-4 md:grid-cols-2"
      >
        <div class="flex flex-col gap-4">
          <UFormField label="Microphone">
            <USelect
              v-model="microphone"
              :items="microphoneItems"
              class="w-full"
            />
          </UFormField>
          <CameraFields />
          <UFormField label="Pen">
            <USelect
              v-model="settings.remembered.pen"
              :items="penItems"
              class="w-full"
            />
          </UFormField>
          <UFormField
            v-if="settings.remembered.pen === 'sim:pen'"
            label="What the simulated pen writes"
          >
            <UTextarea
              v-model="settings.remembered.simulatedText"
              class="w-full"
              :rows="2"
            />
          </UFormField>
          <UFormField label="Button on the pen">
            <USelect
              v-model="settings.remembered.penButton"
              :items="penButtons"
              class="w-full"
            />
          </UFormField>
          <UCheckbox
            v-model="settings.remembered.follow"
            label="Ink is centred in the squares of columns and divisions"
          />
        </div>
        <div class="flex flex-col gap-4">
          <div class="grid grid-cols-2 gap-3">
            <UFormField label="Before a take">
              <USelect
                v-model="settings.remembered.countdown"
                :items="countdowns"
                class="w-full"
              />
            </UFormField>
            <UFormField label="Between questions">
              <USelect
                v-model="settings.remembered.nextCountdown"
                :items="countdowns"
                class="w-full"
              />
            </UFormField>
            <UFormField label="Your turn, suggested">
              <USelect
                v-model="settings.remembered.turnSeconds"
                :items="TURN_TIMES"
                class="w-full"
              />
            </UFormField>
            <UFormField label="The video holds still">
              <USelect
                v-model="settings.remembered.turnHold"
                :items="HOLDS"
                class="w-full"
              />
            </UFormField>
          </div>
          <UCheckbox
            v-model="settings.remembered.autoSteps"
            label="Steps mark themselves at a natural break"
          />
          <UCheckbox
            v-model="settings.remembered.calm"
            label="No moving parts in the interface"
          />
          <div
            class="border-t border-default pt-3"
            data-part="pad"
          >
            <template v-if="pad.opened">
              <p class="text-sm">
                On a phone or tablet of the same network, open
                <strong
                  v-for="address in pad.opened.addresses.slice(0, 2)"
                  :key="address"
                  class="block select-all"
                  >{{ address }}</strong
                >
                and type the code
              </p>
              <p class="serif my-1 text-3xl tracking-widest tabular-nums">
                {{ pad.opened.code }}
              </p>
              <UButton
                color="neutral"
                variant="outline"
                class="h-11"
                @click="pad.switchOff"
              >
                Turn the pad off
              </UButton>
            </template>
            <div
              v-else
              class="flex items-end gap-3"
            >
              <UFormField
                v-if="pad.addresses.length > 1"
                label="Where the other device finds it"
                class="grow"
              >
                <USelect
                  v-model="pad.address"
                  :items="pad.addresses.map(a => ({ label: a === '127.0.0.1' ? 'On this machine only' : a, value: a }))"
                  class="h-11 w-full"
                />
              </UFormField>
              <UButton
                color="neutral"
                variant="outline"
                class="h-11"
                icon="i-lucide-smartphone"
                title="Large buttons for the take, on a second device"
                @click="pad.switchOn"
              >
                Turn on the pad
              </UButton>
            </div>
          </div>
          <div class="border-t border-default pt-3">
            <p class="mb-2 text-sm text-toned">
              Practise with the microphone chosen here, also one that fails on purpose. Nothing of it is kept.
            </p>
            <UButton
              color="neutral"
              variant="outline"
              class="h-11"
              icon="i-lucide-graduation-cap"
              @click="$emit('practise')"
            >
              Practise a take
            </UButton>
          </div>
        </div>
      </div>
    </template>
  </UPopover>
</template>
