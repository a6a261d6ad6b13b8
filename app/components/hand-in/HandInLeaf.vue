<script setup lang="ts">
import type { Recipe } from '@core/model'
import type { PlacesView, StandIns } from '@contracts'
import { api, keepFile } from '~/client'
import type { HandIn } from '~/composables/useHandIn'
import { useRemedies } from '~/composables/useRemedies'
import { useTalk } from '~/stores/talk'

/** Handing a talk in by somebody's rules: what they ask, what is kept of it, and the way there. */
const props = defineProps<{ recipe: Recipe; hand: HandIn }>()
const emit = defineEmits<{ make: [recipe: Recipe]; change: [recipe: Recipe] }>()
const talk = useTalk()
const { view, busy, trouble, file, isOld, isMaking, rules, ready } = props.hand
const fields = ref<{ focus: (what: 'fields' | 'cover') => void } | null>(null)
const standIns = ref<StandIns | null>(null)
onMounted(async () => {
  standIns.value = (await api.get<PlacesView>('/places')).standIns
})
const made = computed(() => file.value !== null)
const isRecorded = computed(() => talk.index !== null)
const leftOver = computed(() => rules.value.filter(({ state }) => state !== 'met').length)
const desk = computed(() => view.value?.desk ?? null)
/** What went to this desk; what went elsewhere stands in the ledger. */
const atDesk = computed(() =>
  (view.value?.sendings ?? []).filter(({ kind, to }) => kind === 'desk' && desk.value !== null && to === view.value?.rules?.name),
)
const onTheWay = computed(() => atDesk.value.some(({ state }) => state === 'queued' || state === 'sending'))
const taken = computed(() => atDesk.value.find(({ state, delivery }) => state === 'done' && delivery === file.value?.id))

function save(): void {
  const { rules: asked } = view.value ?? {}
  if (asked != null) keepFile(new Blob([JSON.stringify(asked, null, 2)], { type: 'application/json' }), `${asked.name}.json`)
}
const { put, station } = useRemedies({ recipe: () => props.recipe, hand: props.hand, emit, fields })
</script>

<template>
  <section v-if="view" class="docket-leaf">
    <template v-if="view.rules === null">
      <h1>Hand in</h1>
      <p class="soft">What a conference, a course or a teacher asks for becomes a list that is ticked as you go.</p>
      <RulesChoice :stand-ins="standIns" :busy="busy" @take="hand.take" />
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    </template>
    <template v-else>
      <div class="head">
        <div>
          <h1>{{ view.rules.name }}</h1>
          <p class="soft">{{ view.rules.about }}</p>
        </div>
        <div class="ways">
          <button v-if="desk" class="press quiet small" :disabled="busy || onTheWay" @click="hand.take({ desk })">
            Ask the desk again
          </button>
          <button class="press quiet small" @click="save">Save as a file</button>
          <button class="press quiet small" :disabled="busy || onTheWay" @click="hand.leave">Other rules</button>
        </div>
      </div>
      <RuleFields ref="fields" :rules="view.rules" :view="view" @fill="hand.fill" />
      <p class="which" role="status">
        <template v-if="isMaking">A file is being made; it is held against the rules once it is there.</template>
        <template v-else-if="file"
          >Held against what was measured in <b>{{ file.file }}</b><template v-if="isOld">. The talk was changed since it was made</template
          >.</template
        >
        <template v-else-if="isRecorded">Held against the file that would be made now.</template>
        <template v-else>Nothing is recorded yet; this is what is asked.</template>
      </p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <div class="row">
        <button v-if="!isRecorded" class="press main large" @click="station('lectern')">To the Lectern</button>
        <button v-else-if="!made || isOld" class="press main large" :disabled="isMaking" @click="emit('make', recipe)">
          Make this file
        </button>
        <button
          v-else-if="desk"
          class="press main large"
          :disabled="!ready || busy || onTheWay"
          @click="hand.send(file!.id, { kind: 'desk' })"
        >
          {{ taken ? 'Hand in again' : 'Hand in' }}
        </button>
        <a v-else class="press main large" :href="`/api/deliveries/${file!.id}/file`" :download="file!.file">Download it to hand in</a>
        <span v-if="made && leftOver > 0" class="soft">{{ leftOver === 1 ? 'One rule is' : `${leftOver} rules are` }} not kept yet.</span>
      </div>
      <div v-if="atDesk.length > 0" class="sent" role="group" aria-label="Handed in">
        <SendingLine v-for="one in atDesk" :key="one.id" :sending="one" @stop="hand.stop(one.id)" @again="hand.again(one.id)" />
      </div>
      <RuleChecklist :rules="rules" :made="made" :busy="busy || isMaking" @put="put" />
      <p v-if="made && !desk && view.words" class="soft wrapped">
        Beside it:
        <a :href="`/api/deliveries/${file!.id}/captions?kind=vtt`">captions</a>
        <a :href="`/api/talks/${talk.talk?.id}/words/transcript?kind=txt`">transcript</a>
        <a :href="`/api/talks/${talk.talk?.id}/hand-in/cover`">cover</a>
      </p>
    </template>
  </section>
</template>

<style scoped>
.head {
  display: flex;
  gap: 20px;
  justify-content: space-between;
  align-items: flex-start;
}
h1 {
  font-size: 24px;
  overflow-wrap: anywhere;
}
.which b {
  overflow-wrap: anywhere;
}
.ways {
  display: grid;
  flex: none;
  justify-items: end;
}
.row {
  display: flex;
  gap: 18px;
  align-items: center;
}
.sent {
  display: grid;
  gap: 10px;
}
</style>
