<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { toString as codeOf } from 'qrcode'
import type { DeliveryId } from '@core/model'
import { useShare } from '~/composables/useShare'
import { useTalk } from '~/stores/talk'

/** The screening page of a talk: who may see it, what they may take along and ask, and what it looks like to them. */
const talk = useTalk()
const id = computed(() => talk.talk?.id ?? '')
const { share, questions, trouble, saved, load, change, renew, answer, remove } = useShare(() => id.value)
const { copy, copied } = useClipboard({ legacy: true })
const renewing = ref(false)
const code = ref('')
const films = computed(() => talk.ledger.filter(({ state, recipe }) => state === 'done' && recipe.format === 'mp4'))
/** A link that opens nothing yet is not given out. */
const opened = ref(false)
watchEffect(() => {
  if (share.value === null || share.value.level === 'closed') opened.value = false
  else if (saved.value) opened.value = true
})
/** Whoever is asked something first would be seen here as well. */
const isForAll = computed(() => share.value !== null && ['link', 'shelf'].includes(share.value.level) && !share.value.phrased)
const NO_FILM = 'none'
const film = computed({
  get: () => share.value?.film ?? NO_FILM,
  set: (chosen: string) => {
    change({ film: chosen === NO_FILM ? null : (chosen as DeliveryId) })
  },
})
async function renewLink(): Promise<void> {
  renewing.value = false
  await renew()
}
watch(id, () => void load(), { immediate: true })
watch(
  () => talk.asked,
  () => void load(),
)
watch(
  () => share.value?.address,
  async (address) => {
    code.value = address === undefined ? '' : await codeOf(address, { type: 'svg', margin: 0 })
  },
)
</script>

<template>
  <div class="show">
    <section v-if="share" class="sheet" aria-label="Screening page">
      <ShareAudience :share="share" :talk-id="id" @change="change" />
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <div v-if="opened" class="link">
        <!-- The code's own markup; it holds nothing but the address. -->
        <!-- eslint-disable-next-line vue/no-v-html -->
        <div class="code" role="img" aria-label="The link as a code to be scanned" v-html="code" />
        <div class="words">
          <a :href="share.address" target="_blank" rel="noopener">{{ share.address }}</a>
          <div class="row">
            <button class="press main go" @click="copy(share.address)">{{ copied ? 'Copied' : 'Copy the link' }}</button>
            <button class="press quiet" @click="renewing = true">End this link, make another</button>
          </div>
        </div>
      </div>
      <p v-else class="soft">
        A page with the film, its slides along it, and all that can be read and found on them. It plays as soon as a take has ended; nothing
        that was cut or hidden is sent.
      </p>
      <div class="fields">
        <label class="written"
          >Presented by
          <el-input
            :model-value="share.presenter"
            maxlength="100"
            placeholder="nobody is named"
            @change="change({ presenter: String($event).trim() })"
        /></label>
        <label class="written"
          >What viewers read about it
          <el-input
            type="textarea"
            :autosize="{ minRows: 2, maxRows: 8 }"
            :model-value="share.description"
            maxlength="4000"
            @change="change({ description: String($event) })"
        /></label>
        <fieldset>
          <legend>They may take along</legend>
          <el-checkbox :model-value="share.handout" @change="change({ handout: $event === true })"
            >slides with their ink, as PDF</el-checkbox
          >
          <el-checkbox :model-value="share.viewerNotes" @change="change({ viewerNotes: $event === true })"
            >what is written for viewers</el-checkbox
          >
          <label class="film"
            >the film:
            <el-select v-model="film" size="small" aria-label="The film to be taken along">
              <el-option :value="NO_FILM" label="no file" />
              <el-option v-for="one in films" :key="one.id" :value="one.id" :label="one.file" />
            </el-select>
          </label>
        </fieldset>
        <el-checkbox :model-value="share.questions" @change="change({ questions: $event === true })"
          >They may ask you something</el-checkbox
        >
      </div>
    </section>
    <section v-if="share && opened && isForAll" class="sheet plain" aria-label="Within another page">
      <ShareEmbed :share="share" @change="change" />
    </section>
    <WithTheTalk v-if="share && id !== ''" :talk-id="id" />
    <ShownSmall v-if="share && opened && isForAll" :address="share.address" />
    <HowWatched v-if="share && share.level !== 'closed' && id !== ''" :talk-id="id" />
    <h2 v-if="questions.length > 0">Questions</h2>
    <AskedQuestions v-if="questions.length > 0" :questions="questions" :talk-id="id" @answer="answer" @remove="remove" />
    <el-dialog v-model="renewing" title="End this link?" width="440" append-to-body>
      <p>Whoever has it sees nothing any more, from a few seconds after now. You get another one to give out.</p>
      <template #footer>
        <button class="press" @click="renewing = false">Keep it</button
        ><button class="press main" @click="renewLink">End it, make another</button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.show {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 22px;
  align-content: start;
}
h2 {
  margin-bottom: -10px;
  font-size: 19px;
}
.sheet {
  display: grid;
  gap: 18px;
  padding: 22px 26px;
  border: 1px solid var(--line);
  border-top: 5px solid var(--brand);
  background: var(--card);
}
.sheet.plain {
  border-top-width: 1px;
  border-top-color: var(--line);
}
.link {
  display: flex;
  gap: 18px;
  align-items: center;
}
.code {
  width: 104px;
  flex: none;
  padding: 6px;
  background: #fff;
}
.words {
  display: grid;
  gap: 10px;
  min-width: 0;
}
.words a {
  overflow-wrap: anywhere;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.go {
  min-height: 40px;
  padding: 0 20px;
}
.fields {
  display: grid;
  gap: 14px;
}
.written {
  display: grid;
  gap: 4px;
}
fieldset {
  display: grid;
  gap: 2px;
  margin: 0;
  padding: 0;
  border: 0;
}
legend {
  padding: 0;
}
.film {
  display: flex;
  gap: 10px;
  align-items: center;
}
.film :deep(.el-select) {
  width: 260px;
}
</style>
