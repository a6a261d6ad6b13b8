<script setup lang="ts">
import { hitsIn, saidWith, searchable, visitAt } from '@core/screening'
import type { Ms } from '@core/model'
import type { ScreeningView } from '@contracts'
import { useNewerVersion } from '~/composables/useNewerVersion'
import { useScreeningPlace } from '~/composables/useScreeningPlace'
import { duration } from '~/words'

/** A talk as others watch it: the picture, the aisle as its timeline, and what can be read, found, asked and taken along. */
const props = defineProps<{ view: ScreeningView; pageKey: string; embedded?: boolean; seriesKey?: string | undefined }>()
const stage = useTemplateRef('stage')
const at = ref<Ms>(0)
const words = ref('')
const hits = computed(() => hitsIn(searchable(props.view.slides), words.value))
const spoken = computed(() => saidWith(props.view.said, words.value).map(({ from }) => from))
const { before } = useScreeningPlace(props.pageKey, props.view, at)
const { newer, recording } = useNewerVersion(props.pageKey, props.view)
const visit = computed(() => visitAt(props.view.visits, at.value))
const slide = computed(() => props.view.slides.find(({ id }) => id === visit.value?.slide) ?? null)
const finder = useTemplateRef('finder')
/** What those are told who do not see it, and no more than that. */
const toldBy = computed(() => {
  const described = props.view.slides.filter(({ description }) => description !== '').length
  const read = 'All words on them can be read beside the film.'
  if (described === 0) return `There is no described version: what slides show is told as far as it is said. ${read}`
  const all = described === props.view.slides.length
  const which = all ? 'All slides are described' : `${String(described)} of ${String(props.view.slides.length)} slides are described`
  return `${which}: with “Tell what slides show” the film waits at them while that is said. ${read}`
})
const seek = (to: Ms): void => {
  stage.value?.seek(to)
}
const reload = (): void => {
  window.location.reload()
}
function goBack(to: Ms): void {
  before.value = null
  seek(to)
}
</script>

<template>
  <div class="screening" :class="{ embedded }">
    <header>
      <h1>
        <a v-if="embedded && view.abroad" :href="view.abroad.address" target="_blank" rel="noopener">{{ view.title }}</a><template v-else>{{
          view.title
        }}</template>
      </h1>
      <p class="by">
        <template v-if="view.presenter">{{ view.presenter }}, </template><span class="clock">{{ duration(view.length) }}</span
        ><template v-if="view.timing === 'planned'">, not recorded yet: slides at the times they are planned for</template>
      </p>
    </header>
    <p v-if="newer" class="notice" role="status">
      <span>This talk was changed since you opened it. What you see goes on as it was.</span
      ><button class="press small" @click="reload">Show the new one</button>
    </p>
    <p v-else-if="recording" class="notice" role="status">
      {{
        view.timing === 'planned'
          ? 'It is being recorded right now. This page says when the film is there.'
          : 'It is being recorded again right now; what is here stays until that is done.'
      }}
    </p>
    <main>
      <ScreeningStage
        ref="stage"
        :view="view"
        :page-key="pageKey"
        :hits="hits"
        :spoken="spoken"
        @at="at = $event"
        @find="finder?.focus()"
      />
      <LinksNow :links="view.links" :at="at" />
      <InSeries v-if="seriesKey" :page-key="pageKey" :series-key="seriesKey" />
      <p v-if="before !== null && at === 0" class="back">
        <button class="press" @click="goBack(before)">
          Go on at <span class="clock">{{ duration(before) }}</span></button
        ><span class="soft">where you were last time</span>
      </p>
      <p v-if="!embedded && (view.face || view.voice)" class="soft described">{{ toldBy }}</p>
      <p v-if="view.reports" class="soft described">
        Your presenter sees whether you have watched this to its end, as you were named for it.
      </p>
      <p v-if="!embedded && view.description" class="said">{{ view.description }}</p>
      <div v-if="!embedded" class="below">
        <ScreeningProgramme ref="finder" v-model="words" :view="view" :current="visit?.id ?? null" :hits="hits" @seek="seek" />
        <aside>
          <SlideWords v-if="slide" :slide="slide" />
          <ScreeningSaid :said="view.said" :at="at" :sought="words" @seek="seek" />
          <ScreeningLinks :links="view.links" @seek="seek" />
          <TakeAlong :view="view" />
          <AskPresenter v-if="view.questions" :page-key="pageKey" :at="at" @seek="seek" />
        </aside>
      </div>
    </main>
  </div>
</template>

<style scoped>
.screening {
  max-width: 1240px;
  margin: 0 auto;
  padding: 14px 20px 60px;
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  align-items: baseline;
  padding-bottom: 8px;
}
h1 {
  font-size: clamp(21px, 2.6vw, 28px);
  overflow-wrap: anywhere;
}
.by {
  color: var(--soft);
  font-size: 16px;
}
.notice {
  margin-bottom: 10px;
  flex-wrap: wrap;
}
.back {
  display: flex;
  gap: 12px;
  align-items: center;
  margin-top: 12px;
}
.described {
  margin-top: 10px;
  font-size: 14px;
}
.said {
  max-width: 72ch;
  margin-top: 16px;
  font-size: 17px;
  white-space: pre-line;
  overflow-wrap: anywhere;
}
.below {
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 4fr);
  gap: 34px;
  margin-top: 22px;
}
aside {
  display: grid;
  gap: 26px;
  align-content: start;
}
/* Within another page it is the film and little more. */
.embedded {
  padding: 6px 10px;
}
.embedded h1 {
  font-size: 18px;
}
@media (max-width: 760px) {
  .screening {
    padding: 10px 12px 40px;
  }
  .below {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media print {
  :global(body) {
    background: #fff;
  }
  .screening {
    padding: 0;
    max-width: none;
  }
  .below {
    display: block;
  }
  .back,
  .notice,
  .described,
  aside {
    display: none;
  }
}
</style>
