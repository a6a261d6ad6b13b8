<script setup lang="ts">
import { broughtClips } from '@core/model'
import type { Slide } from '@core/model'
import { useSheet } from '~/stores/sheet'

/** The bench: the chosen slide large, what it is made of, where the face sits, and how the whole plan stands. */
const props = defineProps<{ slide: Slide; number: number; talkId: string }>()
const sheet = useSheet()
const TABS = [
  { value: 'slide', label: 'Slide' },
  { value: 'face', label: 'Face' },
  { value: 'objects', label: 'Drawn' },
  { value: 'clips', label: 'Clips' },
  { value: 'plan', label: 'Plan' },
] as const
const tab = ref<(typeof TABS)[number]['value']>('slide')
/** The last step shows all that is on a slide. */
const step = ref(props.slide.steps.length - 1)
const covered = ref(0)
const drawn = computed(() => props.slide.drawing?.objects.length ?? 0)
const brought = computed(() => broughtClips(props.slide).length)
watch(
  () => [props.slide.id, props.slide.steps.length],
  ([id], [before]) => {
    if (id !== before || step.value >= props.slide.steps.length) step.value = props.slide.steps.length - 1
  },
)
</script>

<template>
  <section class="bench" aria-label="Bench">
    <div class="tabs" role="tablist" aria-label="Bench">
      <button
        v-for="one in TABS"
        :id="`tab-${one.value}`"
        :key="one.value"
        role="tab"
        :aria-selected="tab === one.value"
        aria-controls="bench-panel"
        @click="tab = one.value"
      >
        {{ one.label }}<template v-if="one.value === 'clips' && brought > 0"> · {{ brought }}</template
        ><template v-if="one.value === 'objects' && drawn > 0"> · {{ drawn }}</template>
      </button>
      <span v-if="tab === 'face' && sheet.concerned.length > 1" class="many">for {{ sheet.concerned.length }} picked slides</span>
    </div>
    <div id="bench-panel" class="panel" role="tabpanel" :aria-labelledby="`tab-${tab}`">
      <PlanPanel v-if="tab === 'plan'" />
      <template v-else>
        <BenchStage
          :slide="slide"
          :step="step"
          :talk-id="talkId"
          :number="number"
          :drawing="tab === 'objects'"
          @covered="covered = $event"
        />
        <div v-if="slide.steps.length > 1" class="steps" role="group" aria-label="Steps of this slide">
          <button
            v-for="(one, n) in slide.steps"
            :key="n"
            :class="{ on: n === step }"
            :aria-pressed="n === step"
            :aria-label="`Step ${n + 1}`"
            @click="step = n"
          >
            <SlidePicture :talk-id="talkId" :picture="one.picture" :drawn="{ slide, step: n }" alt="" /><span class="clock">{{
              n + 1
            }}</span>
          </button>
        </div>
        <SlidePanel v-if="tab === 'slide'" :slide="slide" :step="step" />
        <ObjectPanel v-else-if="tab === 'objects'" :slide="slide" :step="step" @step="step = $event" />
        <ClipPanel v-else-if="tab === 'clips'" :slide="slide" :talk-id="talkId" />
        <FacePanel v-else :slide="slide" :covered="covered" />
      </template>
    </div>
  </section>
</template>

<style scoped>
.bench {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 10px;
  min-height: 0;
}
.tabs {
  display: flex;
  gap: 4px;
  align-items: center;
  border-bottom: 1px solid var(--line);
}
.tabs button {
  padding: 6px 14px;
  border: 0;
  border-bottom: 3px solid transparent;
  background: transparent;
  color: var(--soft);
  font-weight: 600;
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  color: var(--text);
  border-bottom-color: var(--brand);
}
.many {
  margin-left: auto;
  padding: 2px 10px;
  border-radius: 10px;
  background: var(--brand-wash);
  font-size: 13.5px;
}
.panel {
  display: flex;
  flex-direction: column;
  gap: 10px;
  min-height: 0;
  overflow-y: auto;
  padding: 2px;
}
.steps {
  display: flex;
  flex: none;
  gap: 8px;
  overflow-x: auto;
  padding-bottom: 2px;
}
.steps button {
  position: relative;
  flex: none;
  width: 84px;
  padding: 0;
  border: 2px solid var(--line);
  background: var(--card);
  cursor: pointer;
}
.steps button.on {
  border-color: var(--brand);
}
.steps span {
  position: absolute;
  right: 2px;
  bottom: 2px;
  padding: 0 4px;
  background: var(--card);
  font-size: 12px;
}
</style>
