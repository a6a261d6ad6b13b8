<script setup lang="ts">
import type { Hum, NoiseWay } from '@core/model'
import type { Visit } from '@core/programme'
import { useTidyVoice } from '~/composables/useTidyVoice'
import type { VoiceScope } from '~/composables/useTidyVoice'
import { useDressing } from '~/stores/dressing'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { voiceWords } from '~/words'

/** What is done to the voice: proposed by what was measured in it, and heard before and after by holding a key. */
const props = defineProps<{ visit: Visit | null }>()
const dressing = useDressing()
const edits = useProgrammeEdits()
const { scope, measured, proposed, now, isTidy, tidy, change, heard } = useTidyVoice(computed(() => props.visit))
const said = computed(() => (measured.value === null ? null : voiceWords(measured.value, proposed.value)))

const SCOPES: readonly { readonly value: VoiceScope; readonly label: string }[] = [
  { value: 'talk', label: 'All of the talk' },
  { value: 'take', label: 'Its take' },
  { value: 'visit', label: 'This visit' },
]
const NOISES = [
  { value: 'none', say: 'left', hint: '' },
  { value: 'learned', say: 'taken down', hint: 'by a network that has learned what speech is' },
  { value: 'gated', say: 'gated', hint: 'part by part of the spectrum; keeps more of breath and room' },
]
const HUMS = [
  { value: 'none', say: 'left' },
  { value: '50 Hz', say: 'taken out at 50 Hz' },
  { value: '60 Hz', say: 'taken out at 60 Hz' },
]
const noise = computed(() => now.value.noise ?? 'none')
const hum = computed(() => now.value.hum ?? 'none')

onMounted(() => void dressing.loadVoices())
</script>

<template>
  <div class="voice" role="group" aria-label="Voice">
    <p class="wrapped">
      <label class="switch"
        ><el-switch
          :model-value="isTidy"
          :disabled="edits.busy || !heard || measured === null"
          aria-label="Tidy voice"
          @update:model-value="tidy($event === true)"
        /><b>Tidy voice</b></label
      >
      <el-segmented v-model="scope" :options="[...SCOPES]" size="small" aria-label="Whose voice" />
      <span class="gap" />
      <HoldAsRecorded v-if="isTidy" label="as recorded" hint="Hold it, or the key O, to hear the recording as it is" />
    </p>
    <p v-if="!heard" class="soft">No voice is heard here.</p>
    <p v-else-if="said === null" class="soft" role="status">The voice is being measured …</p>
    <p v-else class="soft">{{ said }}</p>
    <template v-if="isTidy">
      <p>
        Noise of the room is
        <WordChoice
          :model-value="noise"
          :options="NOISES"
          label="Noise of the room"
          @update:model-value="change({ noise: $event === 'none' ? null : ($event as NoiseWay) })"
        />, hum is
        <WordChoice
          :model-value="hum"
          :options="HUMS"
          label="Hum"
          @update:model-value="change({ hum: $event === 'none' ? null : ($event as Hum) })"
        />.
      </p>
      <p class="wrapped">
        <el-checkbox :model-value="now.rumble" label="Low rumble out" @update:model-value="change({ rumble: $event === true })" />
        <el-checkbox :model-value="now.sibilance" label="Harsh s softened" @update:model-value="change({ sibilance: $event === true })" />
        <el-checkbox :model-value="now.level" label="Level evened" @update:model-value="change({ level: $event === true })" />
      </p>
      <p v-if="dressing.preparing" class="soft" role="status">It is being made ready; until then the recording is heard.</p>
    </template>
    <p v-if="dressing.trouble" class="notice bad" role="alert">
      <span>{{ dressing.trouble }}</span><button class="press quiet small" @click="dressing.trouble = null">Close</button>
    </p>
  </div>
</template>

<style scoped>
.voice {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
.switch {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
</style>
