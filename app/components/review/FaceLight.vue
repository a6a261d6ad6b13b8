<script setup lang="ts">
import { AS_FILMED, LIGHT_RANGE, NO_LIGHTS } from '@core/model'
import type { Light } from '@core/model'
import { isAsFilmed } from '@core/programme'
import type { Visit } from '@core/programme'
import { useFaceScope } from '~/composables/useFaceScope'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'

/** The light of the camera picture, for all of the talk or for a visit. */
const props = defineProps<{ visit: Visit | null; /** Of the picture that is on; null: there is none. */ measure: () => Light | null }>()
const talk = useTalk()
const edits = useProgrammeEdits()
const face = useFaceScope(computed(() => props.visit))
const { scope, stretches } = face
const now = computed<Light>(() => face.saidOf(talk.programme.lights ?? NO_LIGHTS) ?? AS_FILMED)
const unmeasured = ref(false)

function set(light: Light): void {
  unmeasured.value = false
  void edits.editThen(() => {
    const said = face.saying(light, isAsFilmed(light))
    return said && { kind: 'light', stretches: said.stretches, visits: said.visits, light: said.value }
  })
}
const change = (fields: Partial<Light>): void => {
  set({ ...now.value, ...fields })
}
function asMeasured(): void {
  const light = props.measure()
  if (light === null) unmeasured.value = true
  else set(light)
}
const SLIDERS = [
  { key: 'brightness', name: 'Brightness' },
  { key: 'contrast', name: 'Contrast' },
  { key: 'warmth', name: 'Warmth' },
] as const
</script>

<template>
  <div v-if="stretches.length > 0" class="light" role="group" aria-label="Light">
    <FaceScope v-model="scope" title="Light" label="Whose light">
      <button class="press small" :disabled="edits.busy" @click="asMeasured">As measured</button>
      <button class="press quiet small" :disabled="edits.busy || isAsFilmed(now)" @click="set(AS_FILMED)">As filmed</button>
    </FaceScope>
    <label v-for="{ key, name } in SLIDERS" :key="key" class="row"
      >{{ name }}
      <NumberSlider
        :model-value="now[key]"
        :min="LIGHT_RANGE[key].least"
        :max="LIGHT_RANGE[key].most"
        :step="0.01"
        :show-tooltip="false"
        :aria-label="name"
        @change="change({ [key]: $event })"
    /></label>
    <p v-if="unmeasured" class="soft" role="status">There is no face in the picture that is on. Go to a moment that has one.</p>
  </div>
</template>

<style scoped>
.light {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
.row {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 14px;
  align-items: center;
  padding-right: 12px;
  color: var(--soft);
}
</style>
