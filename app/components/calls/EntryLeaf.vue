<script setup lang="ts">
import type { Recipe } from '@core/model'
import { ACCEPTED_ENTRIES } from '~/client'
import type { HandIn } from '~/composables/useHandIn'
import { useRemedies } from '~/composables/useRemedies'
import { useEntrant } from '~/stores/entrant'
import { useTalk } from '~/stores/talk'
import { lastMoment } from '~/words'

/** Handing a talk in for the call that it is made for: its rules, one button, and the receipts. */
const props = defineProps<{ recipe: Recipe; hand: HandIn }>()
const emit = defineEmits<{ make: [recipe: Recipe]; change: [recipe: Recipe] }>()
const talk = useTalk()
const entrant = useEntrant()
const { view, file, isOld, isMaking, rules, ready } = props.hand
const fields = ref<{ focus: (what: 'fields' | 'cover') => void } | null>(null)
const chooser = ref<{ open: () => void } | null>(null)
const isRecorded = computed(() => talk.index !== null)
/** A finished file that shows the talk as it is. */
const current = computed(() => (file.value !== null && !isOld.value ? file.value : null))
const wrong = computed(() => rules.value.filter(({ state }) => state !== 'met'))
const mayBeFaulty = computed(() => entrant.view?.faulty === 'marked')
const { put, station } = useRemedies({ recipe: () => props.recipe, hand: props.hand, emit, fields })
/** Of what is reckoned only what is known to be wrong stands in the way. */
const stands = computed(() => rules.value.filter(({ state, kind }) => state === 'wrong' || (state === 'open' && kind !== 'size')))
const blocked = computed(() => {
  if (entrant.view === null || entrant.view.closed !== null) return true
  if (mayBeFaulty.value) return false
  return current.value === null ? stands.value.length > 0 : !ready.value
})
const action = computed(() => {
  if (entrant.counted !== null) return 'Hand in again'
  return mayBeFaulty.value && wrong.value.length > 0 ? 'Hand in as it is' : 'Hand in'
})
const renewing = ref(false)
async function renew(): Promise<void> {
  renewing.value = false
  await entrant.renewLink()
}
</script>

<template>
  <section v-if="entrant.view && view?.rules" class="docket-leaf">
    <div class="head">
      <h1>{{ entrant.view.title }}</h1>
      <p class="soft">
        <template v-if="entrant.view.organiser">For {{ entrant.view.organiser }}, until</template><template v-else>Until</template>
        {{ lastMoment(entrant.view.until) }}
      </p>
      <p v-if="entrant.view.asks" class="asks">{{ entrant.view.asks }}</p>
    </div>
    <div v-if="entrant.view.newRules" class="notice" role="note">
      <p>The rules were changed since you began. You are held to those you began with.</p>
      <button class="press small" :disabled="entrant.busy" @click="entrant.takeNewRules">Take the new ones</button>
    </div>
    <RuleFields ref="fields" :rules="view.rules" :view="view" @fill="hand.fill" />
    <p v-if="entrant.trouble ?? hand.trouble.value" class="notice bad" role="alert">{{ entrant.trouble ?? hand.trouble.value }}</p>
    <p v-if="entrant.view.closed && !entrant.pending" class="notice" role="status">{{ entrant.view.closed }}</p>
    <p v-else-if="entrant.view.wouldBeLate" class="notice" role="status">The last day is over: what you hand in now is marked as late.</p>
    <div class="wrapped">
      <button v-if="!isRecorded" class="press main large" @click="station('lectern')">To the Lectern</button>
      <button
        v-else
        class="press main large"
        :disabled="blocked || entrant.busy || entrant.pending !== null || isMaking"
        @click="entrant.handIn(current?.id ?? null)"
      >
        {{ action }}
      </button>
      <span v-if="isRecorded && !mayBeFaulty && stands.length > 0" class="soft">
        {{ stands.length === 1 ? 'One rule is' : `${stands.length} rules are` }} not kept yet.
      </span>
      <span v-else-if="isRecorded && current === null && !blocked && entrant.pending === null" class="soft">
        Its file is made then; it counts from the moment you press.
      </span>
    </div>
    <div v-if="entrant.view.entries.length > 0" class="entries" role="group" aria-label="Handed in">
      <EntryLine
        v-for="entry in entrant.view.entries"
        :key="entry.id"
        :entry="entry"
        :replaced="entry.state === 'taken' && entry.id !== entrant.counted?.id"
      />
    </div>
    <div v-if="!isRecorded">
      <p class="soft">Nothing is recorded yet; this is what is asked.</p>
      <RulesAsked :rules="view.rules" />
    </div>
    <RuleChecklist v-else :rules="rules" :made="current !== null" :busy="hand.busy.value || isMaking" @put="put" />
    <details v-if="entrant.view.closed === null">
      <summary>It was recorded elsewhere</summary>
      <p class="soft">
        A film of yours is held against the same rules. Choose it together with its captions and transcript, where they are asked for.
      </p>
      <button class="press" :disabled="entrant.busy || entrant.pending !== null" @click="chooser?.open()">
        {{ entrant.busy ? 'Sending …' : 'Choose the files and hand them in' }}
      </button>
      <FileChooser
        ref="chooser"
        multiple
        :accept="ACCEPTED_ENTRIES"
        aria-label="A film that was recorded elsewhere"
        @files="entrant.bring"
      />
    </details>
    <div v-if="entrant.view.link" class="own">
      <b>The link to this talk</b>
      <CopyLink :address="entrant.view.link" label="The link to this talk" />
      <p class="soft">
        With it you find the talk again, also on another computer<template v-if="entrant.view.address"
          >; it was sent to {{ entrant.view.address }}</template
        ><template v-else>. No address is known, so keep it</template>.
        <button class="press quiet small" @click="renewing = true">Somebody else has it</button>
      </p>
    </div>
    <el-dialog v-model="renewing" title="Make another link?" width="440" append-to-body>
      <p>The link that there is lets nobody in any more. This computer stays in; everywhere else the new one is needed.</p>
      <template #footer>
        <button class="press" @click="renewing = false">Leave it</button><button class="press main" @click="renew">Make another</button>
      </template>
    </el-dialog>
  </section>
</template>

<style scoped>
.head {
  display: grid;
  gap: 6px;
}
h1 {
  font-size: 24px;
  overflow-wrap: anywhere;
}
.asks {
  white-space: pre-wrap;
  overflow-wrap: anywhere;
}
.entries,
.own {
  display: grid;
  gap: 8px;
}
details {
  display: grid;
  gap: 8px;
}
summary {
  cursor: pointer;
  font-weight: 600;
}
details p {
  margin: 8px 0;
}
.own {
  padding-top: 14px;
  border-top: 1px solid var(--line);
}
</style>
