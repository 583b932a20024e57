<script setup lang="ts">
/** The camera: off until it is turned on; how its picture stands in the frame. */
const camera = useCamera()
onMounted(() => {
  void camera.find()
})
const OFF = 'off'
const items = computed(() => [
  { label: 'Off', value: OFF },
  ...camera.choices.map(c => ({ label: c.label, value: c.id })),
])
const chosen = computed({
  get: () => (camera.on ? (camera.chosen?.id ?? OFF) : OFF),
  set: (id: string) => {
    if (id === OFF) camera.switchOff()
    else void camera.switchOn(id)
  },
})
</script>

<template>
  <UFormField
    label="Camera"
    help="Your picture in a corner while you write. Off until you turn it on, each time."
    data-part="camera"
  >
    <USelect
      v-model="chosen"
      :items="items"
      :loading="camera.opening"
      class="w-full"
    />
    <PortraitSelects
      v-if="camera.on"
      class="mt-2"
      :model-value="camera.portrait"
      @update:model-value="camera.place"
    />
  </UFormField>
</template>
