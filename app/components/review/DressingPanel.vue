<script setup lang="ts">
import { Film, Headset, Picture } from '@element-plus/icons-vue'
import { TUNES, TUNE_NAMES } from '@core/music'
import type { Tune } from '@core/music'
import type { Ms, Theme } from '@core/model'
import type { Visit } from '@core/programme'
import { useDressing } from '~/stores/dressing'
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useSession } from '~/stores/session'
import { useTalk } from '~/stores/talk'

/** Titles, pictures and music over the talk, and what is done to its voices. */
const props = defineProps<{ visit: Visit | null; at: Ms }>()
const emit = defineEmits<{ go: [at: Ms] }>()
const dressing = useDressing()
const edits = useProgrammeEdits()
const session = useSession()
const talk = useTalk()

const pictures = ref<{ open: () => void } | null>(null)
const sounds = ref<{ open: () => void } | null>(null)
/** Cards look like slides made here; plates are told from them. */
const theme = computed<Theme>(() => talk.slides.find(({ composition }) => composition !== null)?.composition?.theme ?? 'harbour')
const plateTheme = computed<Theme>(() => {
  const own = talk.slides.find(({ id }) => id === props.visit?.slide)?.composition?.theme
  return own === 'harbour' || own === 'dusk' ? 'paper' : 'harbour'
})
/** Where nobody signs in nobody has a name. */
const presenter = computed(() => (session.accounts ? (session.person?.name ?? '') : ''))
/** Where music is from is said at the end, where it is known. */
const credits = computed(() =>
  dressing.items.flatMap((item) => (item.kind === 'music' && item.hung.credit !== '' ? [`Music: ${item.hung.credit}`] : [])),
)

const opening = (): Promise<void> => dressing.addCard('opening', theme.value, talk.talk?.name ?? '', presenter.value)
const closing = (): Promise<void> =>
  dressing.addCard('closing', theme.value, 'Thank you', [presenter.value, ...credits.value].filter((line) => line !== '').join('\n\n'))
const name = (): Promise<void> =>
  dressing.add(
    (place) => ({
      kind: 'lower-third',
      ...place,
      theme: plateTheme.value,
      at: null,
      name: presenter.value || 'Name',
      place: talk.talk?.call?.title ?? '',
    }),
    props.at,
    'lower-third',
  )
const words = (): Promise<void> =>
  dressing.add((place) => ({ kind: 'text', ...place, theme: plateTheme.value, at: null, text: 'Words' }), props.at, 'text')

function music(command: Tune | 'file'): void {
  if (command === 'file') sounds.value?.open()
  else void dressing.addMusic(command)
}
const films = ref<{ open: () => void } | null>(null)
const where = ref<'before' | 'after'>('before')
function chooseFilm(command: 'before' | 'after'): void {
  where.value = command
  films.value?.open()
}
const film = ([file]: readonly File[]): void => {
  if (file !== undefined) void dressing.addFilm(where.value, file)
}
const busy = computed(() => edits.busy || dressing.bringing)
const sound = (files: readonly File[]): void => {
  const [file] = files
  if (file !== undefined) void dressing.addMusic(file)
}
</script>

<template>
  <section class="panel" aria-label="Dressing">
    <div class="wrapped" role="group" aria-label="Add">
      <button class="press small" :disabled="busy" @click="opening">Opening card</button>
      <button class="press small" :disabled="busy" @click="name">Name</button>
      <button class="press small" :disabled="busy" @click="words">Words</button>
      <button class="press small" :disabled="busy" @click="pictures?.open()"><Picture />Picture</button>
      <el-dropdown trigger="click" :disabled="busy" @command="music">
        <button class="press small" :disabled="busy"><Headset />Music</button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item v-for="tune in TUNES" :key="tune" :command="tune">{{ TUNE_NAMES[tune] }}</el-dropdown-item>
            <el-dropdown-item command="file" divided>A file of your own …</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
      <el-dropdown trigger="click" :disabled="busy" @command="chooseFilm">
        <button class="press small" :disabled="busy"><Film />Film</button>
        <template #dropdown>
          <el-dropdown-menu>
            <el-dropdown-item command="before">Before the talk …</el-dropdown-item>
            <el-dropdown-item command="after">After the talk …</el-dropdown-item>
          </el-dropdown-menu>
        </template>
      </el-dropdown>
      <button class="press small" :disabled="busy" @click="closing">Closing card</button>
    </div>
    <FileChooser ref="films" accept="video/*,.mp4,.mov,.webm,.mkv" aria-label="Film before or after the talk" @files="film" />
    <p v-if="dressing.bringing" class="soft" role="status">It is being made ready …</p>
    <FileChooser
      ref="pictures"
      accept=".png,.jpg,.jpeg,.webp,image/png,image/jpeg,image/webp"
      aria-label="Picture over the talk"
      @files="dressing.addPicture($event, at)"
    />
    <FileChooser ref="sounds" accept="audio/*,.mp3,.wav,.m4a,.ogg,.flac" aria-label="Music under the talk" @files="sound" />
    <OverlayFields v-if="dressing.chosen?.kind === 'over'" :key="dressing.chosen.id" :item="dressing.chosen" @go="emit('go', $event)" />
    <BedFields v-else-if="dressing.chosen?.kind === 'music'" :key="dressing.chosen.id" :item="dressing.chosen" @go="emit('go', $event)" />
    <p v-else class="soft hint">
      {{
        dressing.items.length === 0
          ? 'A name comes where the film stands; cards get a time of their own. Nothing is recorded anew.'
          : 'Choose something on the lane above to change it.'
      }}
    </p>
    <TidyVoice :visit="visit" />
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
}
</style>
