<script setup lang="ts">
import { NO_BACKDROPS, ROOM, Refusal } from '@core/model'
import type { Backdrop, BackdropFinder, NewBackdrop } from '@core/model'
import type { Visit } from '@core/programme'
import FileChooser from '~/components/shell/FileChooser.vue'
import { bringPictures } from '~/client'
import { useFaceScope } from '~/composables/useFaceScope'
import { useTriedBackdrop } from '~/composables/useTriedBackdrop'
import type { CameraPlace } from '~/composables/useTriedBackdrop'
import { useBackdrops } from '~/stores/backdrops'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { BACKDROP_COLOURS, roughTime } from '~/words'

/** What is seen behind the face: tried on the picture that is on, then used for all of the talk or for a visit. */
const props = defineProps<{
  visit: Visit | null
  /** Of the picture that is on; null: it has no face. */
  place: () => CameraPlace | null
}>()
const talk = useTalk()
const edits = useProgrammeEdits()
const backdrops = useBackdrops()
const chooser = ref<InstanceType<typeof FileChooser> | null>(null)
const KINDS = [
  { value: 'filmed', label: 'As filmed' },
  { value: 'soft', label: 'Soft' },
  { value: 'plain', label: 'Plain' },
  { value: 'picture', label: 'A picture' },
] as const
const FINDERS = [
  { value: 'outline', say: 'their outline', hint: 'found in the picture; nothing is needed for it' },
  { value: 'cloth', say: 'a green or blue cloth', hint: 'that hangs behind them; sharper, and made sooner' },
] as const
const face = useFaceScope(computed(() => props.visit))
const { scope, stretches, concerned } = face
const now = computed<Backdrop>(() => face.saidOf(talk.programme.backdrops ?? NO_BACKDROPS) ?? ROOM)
const NOT_ON = 'There is no face in the picture that is on. Go to a moment that has one.'
const tried = shallowRef<NewBackdrop | null>(null)
const bringing = ref(false)
const { still, busy, trouble, show } = useTriedBackdrop((backdrop) => {
  const place = props.place()
  return place === null ? Promise.reject(new Refusal('not-found', NOT_ON)) : backdrops.tryOut(place.stretch, place.at, backdrop)
})
const kind = computed(() => tried.value?.kind ?? now.value.kind)
const current = computed<NewBackdrop | null>(() => tried.value ?? (now.value.kind === 'filmed' ? null : now.value))
/** How long it takes to make all that is concerned. */
const takes = computed(() => {
  const meant = new Set(concerned.value)
  const all = (talk.film?.stretches ?? []).filter(({ id }) => meant.has(id)).reduce((sum, { length }) => sum + length, 0)
  return roughTime(all * backdrops.pace)
})

function attempt(backdrop: NewBackdrop | null): void {
  tried.value = backdrop
  void show(backdrop)
}
function choose(value: Backdrop['kind']): void {
  const finder = current.value?.finder ?? 'outline'
  if (value === 'soft') attempt({ kind: 'soft', finder })
  else if (value === 'plain') attempt({ kind: 'plain', colour: BACKDROP_COLOURS[0].colour, finder })
  else if (value === 'picture') chooser.value?.open()
  else use(ROOM)
}
async function bring(files: readonly File[]): Promise<void> {
  const id = talk.talk?.id
  if (id === undefined) return
  bringing.value = true
  await edits.attempt(async () => {
    const [picture] = await bringPictures(id, files.slice(0, 1))
    if (picture !== undefined) attempt({ kind: 'picture', asset: picture.asset, finder: current.value?.finder ?? 'outline' })
  })
  bringing.value = false
}
function use(backdrop: Backdrop): void {
  attempt(null)
  void edits.editThen(() => {
    const said = face.saying(backdrop, backdrop.kind === 'filmed')
    return said && { kind: 'backdrop', stretches: said.stretches, visits: said.visits, backdrop: said.value }
  })
}
const find = (finder: BackdropFinder): void => {
  if (current.value !== null) attempt({ ...current.value, finder })
}
watch(scope, () => {
  attempt(null)
})
</script>

<template>
  <div v-if="stretches.length > 0" class="backdrop" role="group" aria-label="Backdrop">
    <FaceScope v-model="scope" title="Backdrop" label="Whose backdrop">
      <HoldAsRecorded v-if="now.kind !== 'filmed'" label="as filmed" hint="Hold it, or the key O, to see the picture as it was filmed" />
    </FaceScope>
    <el-segmented
      class="wide"
      :model-value="kind"
      :options="[...KINDS]"
      size="small"
      :disabled="edits.busy || bringing"
      aria-label="What is behind the face"
      @update:model-value="choose($event as Backdrop['kind'])"
    />
    <FileChooser ref="chooser" accept="image/*" aria-label="Picture behind the face" @files="bring" />
    <template v-if="current !== null">
      <p v-if="current.kind === 'plain'" class="wrapped" role="radiogroup" aria-label="Colour behind the face">
        <button
          v-for="{ colour, name } in BACKDROP_COLOURS"
          :key="colour"
          class="swatch"
          role="radio"
          :style="{ background: colour }"
          :aria-checked="current.colour === colour"
          :aria-label="name"
          :title="name"
          @click="attempt({ ...current, colour })"
        />
      </p>
      <p>
        The presenter is told by
        <WordChoice
          :model-value="current.finder"
          :options="FINDERS"
          label="The presenter is told by"
          @update:model-value="find($event as BackdropFinder)"
        />.
      </p>
      <TriedBackdrop :still="still" :busy="busy" :trouble="trouble" />
      <p v-if="tried !== null" class="wrapped">
        <button class="press small main" :disabled="edits.busy || busy || trouble !== null" @click="use(tried)">Use it</button>
        <button class="press quiet small" @click="attempt(null)">Leave it</button>
        <span class="soft">It takes {{ takes }} here, while you go on. What was recorded stays as it is.</span>
      </p>
    </template>
    <p v-if="backdrops.failed" class="notice bad" role="alert">
      <span>{{ backdrops.failed.sentence }}</span><button class="press quiet small" @click="backdrops.retry()">Try again</button>
    </p>
    <p v-if="backdrops.trouble" class="notice bad" role="alert">
      <span>{{ backdrops.trouble }}</span><button class="press quiet small" @click="backdrops.trouble = null">Close</button>
    </p>
    <div v-if="backdrops.underWay.count > 0" role="status">
      <el-progress :percentage="Math.round(backdrops.underWay.share * 100)" :stroke-width="8" aria-label="Backdrop" />
      <p class="soft">
        {{
          backdrops.underWay.timeLeft === null ? 'It is being made.' : `It is being made: ${roughTime(backdrops.underWay.timeLeft)} left.`
        }}
        Until then the face is seen as filmed.
      </p>
    </div>
  </div>
</template>

<style scoped>
.backdrop {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 8px;
  padding-top: 10px;
  border-top: 1px solid var(--line);
}
.wide {
  width: 100%;
}
.swatch {
  width: 30px;
  height: 30px;
  border: 1px solid var(--line);
  border-radius: 50%;
  cursor: pointer;
}
.swatch[aria-checked='true'] {
  outline: 3px solid var(--brand);
  outline-offset: 2px;
}
</style>
