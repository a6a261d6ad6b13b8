<script setup lang="ts">
import { useProgrammeEdits } from '~/stores/programme-edits'
import { useTalk } from '~/stores/talk'
import { changeReason, duration, moment } from '~/words'

/** Every version of the programme: what was done, named ones marked; any can be returned to. */
const talk = useTalk()
const programmeEdits = useProgrammeEdits()
const naming = ref('')
const changes = computed(() => programmeEdits.history?.changes ?? [])
const since = computed(() => programmeEdits.history?.sinceDelivery ?? null)
const verbs = { edit: '', undo: 'Took back: ', redo: 'Did again: ' } as const
function keepName(): void {
  const name = naming.value.trim()
  if (name !== '')
    void programmeEdits.name(talk.programme.revision, name).then((done) => {
      if (done) naming.value = ''
    })
}
</script>

<template>
  <section class="panel" aria-label="History">
    <p v-if="since !== null" class="soft">
      {{
        since === 0
          ? 'Nothing has changed since the last file was made.'
          : `${since} ${since === 1 ? 'part has' : 'parts have'} changed since the last file was made.`
      }}
    </p>
    <form class="line" @submit.prevent="keepName">
      <el-input
        v-model="naming"
        maxlength="80"
        size="small"
        placeholder="A name for the talk as it is now"
        aria-label="A name for the talk as it is now"
      />
      <button class="press small" :disabled="naming.trim() === '' || programmeEdits.busy">Name it</button>
    </form>
    <ol class="listed short">
      <li v-for="(change, n) in changes" :key="change.revision" :class="{ named: change.name }">
        <span class="what"
          ><b v-if="change.name">{{ change.name }}: </b>{{ verbs[change.role] }}{{ changeReason(change.reason) }}</span
        >
        <span class="clock soft">{{ duration(change.length) }}</span>
        <span class="soft when">{{ moment(change.made) }}</span>
        <button v-if="n > 0" class="press quiet small" :disabled="programmeEdits.busy" @click="programmeEdits.returnTo(change.revision)">
          Go back to this
        </button>
        <span v-else class="soft now">as it is now</span>
      </li>
    </ol>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
}
.line {
  display: flex;
  gap: 8px;
}
ol {
  max-height: 230px;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) max-content max-content 118px;
  gap: 10px;
  align-items: center;
  min-height: 30px;
  border-bottom: 1px solid var(--line);
  font-size: 14px;
}
.what {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.what::first-letter {
  text-transform: uppercase;
}
.now {
  text-align: right;
  padding-right: 8px;
}
.named {
  background: var(--accent-wash);
}
</style>
