<script setup lang="ts">
/** Plays a clip of the teacher: its sound leads, its picture follows. */
const props = defineProps<{ track: Blob | null; sound: Blob | null }>()
const audio = ref<HTMLAudioElement>()
const url = useObjectUrl(() => props.sound)
const time = ref(0)
const playing = ref(false)
useRafFn(() => {
  if (audio.value) time.value = audio.value.currentTime * 1000
})
</script>

<template>
  <div class="flex flex-col">
    <div class="relative aspect-video w-full overflow-hidden bg-(--ui-bg-elevated)">
      <PortraitPlayer
        v-if="track"
        :track="track"
        :time="time"
        :playing="playing"
        :speed="1"
      />
      <p
        v-else
        class="grid size-full place-items-center text-toned"
      >
        This clip has a voice and no picture.
      </p>
    </div>
    <audio
      ref="audio"
      :src="url"
      controls
      class="mt-2 w-full"
      aria-label="Play the clip"
      @play="playing = true"
      @pause="playing = false"
      @ended="playing = false"
    />
  </div>
</template>
