<script setup lang="ts">
import { isUnderWay, isVideo } from '@core/model'
import { withoutEnding } from '@core/plan'
import { CAPTION_KINDS } from '@contracts'
import type { DeliveryView, SendingWish } from '@contracts'
import type { Picture } from '@core/model'
import { useTalk } from '~/stores/talk'
import { CAPTION_NAMES, fileSize, duration, moment, roughTime } from '~/words'

/** One file: being made, made, or why it was not. */
const props = defineProps<{
  delivery: DeliveryView
  talkId: string
  opening: Picture | null
  limit: number | null
  laid: boolean
  waiting: number
}>()
const emit = defineEmits<{
  cancel: []
  pause: []
  first: []
  retry: []
  rename: [name: string]
  remove: []
  lay: []
  send: [wish: SendingWish]
}>()
const talk = useTalk()
const naming = ref<string | null>(null)
const removing = ref(false)
const sending = ref(false)
function keepName(): void {
  const name = withoutEnding(naming.value?.trim() ?? '')
  if (name !== '') emit('rename', name)
  naming.value = null
}

const making = computed(() => isUnderWay(props.delivery.state))
const share = computed(() => Math.round((props.delivery.framesDone / Math.max(1, props.delivery.framesTotal)) * 100))
const over = computed(() => (props.limit === null || props.delivery.facts === null ? 0 : props.delivery.facts.length - props.limit))
const playing = ref(false)
function remove(): void {
  removing.value = false
  emit('remove')
}
</script>

<template>
  <article class="line" :class="delivery.state" :aria-label="delivery.file">
    <MakingPicture v-if="making" :delivery="delivery" :talk-id="talkId" :opening="opening" />
    <div class="words">
      <div class="head">
        <form v-if="naming !== null" class="naming" @submit.prevent="keepName">
          <el-input v-model="naming" maxlength="120" size="small" aria-label="Name of this file" /><button class="press small">Keep</button
          ><button type="button" class="press quiet small" @click="naming = null">Leave it</button>
        </form>
        <h3 v-else>{{ delivery.file }}</h3>
        <span class="soft">{{ moment(delivery.created) }}</span>
      </div>
      <template v-if="making">
        <el-progress :percentage="share" :stroke-width="10" :show-text="false" :aria-label="`${share}% made`" />
        <p role="status">
          <template v-if="delivery.state === 'queued'">{{
            delivery.starts === null ? 'Waiting for its turn …' : `Begins ${moment(delivery.starts)} or later.`
          }}</template>
          <template v-else-if="delivery.state === 'checking'">Joining and checking …</template>
          <template v-else
            >Frame <span class="clock">{{ delivery.framesDone }}</span> of <span class="clock">{{ delivery.framesTotal }}</span><template
              v-if="delivery.timeLeft !== null"
              >, {{ roughTime(delivery.timeLeft) }} left</template
            >. You can close this page; it goes on.</template
          >
        </p>
      </template>
      <template v-else-if="delivery.facts">
        <dl class="facts">
          <div>
            <dt>length</dt>
            <dd class="clock">{{ duration(delivery.facts.length) }}</dd>
          </div>
          <div v-if="delivery.facts.width > 0">
            <dt>picture</dt>
            <dd class="clock">{{ delivery.facts.width }}×{{ delivery.facts.height }}, {{ delivery.facts.frameRate }}/s</dd>
          </div>
          <div>
            <dt>size</dt>
            <dd class="clock">
              {{ fileSize(delivery.facts.bytes) }} <span class="soft">(about {{ fileSize(delivery.estimate.bytes) }} said)</span>
            </dd>
          </div>
          <div>
            <dt>made in</dt>
            <dd class="clock">{{ duration(delivery.facts.madeIn) }}</dd>
          </div>
          <div>
            <dt>stored as</dt>
            <dd>{{ [delivery.facts.videoCodec, delivery.facts.audioCodec].filter(Boolean).join(', ') }}</dd>
          </div>
          <div>
            <dt>loudness</dt>
            <dd class="clock">
              {{
                delivery.facts.loudness === null
                  ? 'silent'
                  : `${delivery.facts.loudness.toFixed(1)} LUFS, peak ${delivery.facts.truePeak?.toFixed(1)} dBTP`
              }}
            </dd>
          </div>
        </dl>
        <p v-if="delivery.facts.captions" class="beside">
          Captions inside; beside it as
          <a v-for="kind in CAPTION_KINDS" :key="kind" :href="`/api/deliveries/${delivery.id}/captions?kind=${kind}`">{{
            CAPTION_NAMES[kind]
          }}</a>
        </p>
        <p v-if="over > 0" class="over">{{ duration(over) }} over the limit.</p>
      </template>
      <p v-else :class="{ over: delivery.state === 'failed' }">
        {{ delivery.state === 'paused' ? `Stands still at ${share}%. What is made is kept.` : delivery.sentence }}
      </p>
      <slot />
      <audio v-if="playing && !isVideo(delivery.recipe.format)" controls autoplay :src="`/api/deliveries/${delivery.id}/file?show`" />
      <video v-else-if="playing" controls autoplay :src="`/api/deliveries/${delivery.id}/file?show`" />
      <div class="row">
        <template v-if="delivery.state === 'done'">
          <a class="press main" :href="`/api/deliveries/${delivery.id}/file`" :download="delivery.file">Download</a>
          <button class="press" @click="playing = !playing">{{ playing ? 'Close the player' : 'Play it here' }}</button>
          <button v-if="isVideo(delivery.recipe.format)" class="press" :aria-pressed="laid" @click="$emit('lay')">
            {{ laid ? 'Do not compare' : 'Compare' }}
          </button>
          <button v-if="!talk.isGuests" class="press" @click="sending = true">Send</button>
        </template>
        <template v-else-if="making">
          <button class="press" @click="$emit('pause')">Pause</button>
          <button v-if="delivery.state === 'queued' && (waiting > 1 || delivery.starts !== null)" class="press" @click="$emit('first')">
            {{ delivery.starts === null ? 'Make this one next' : 'Begin now' }}
          </button>
          <button class="press quiet" @click="$emit('cancel')">Cancel</button>
        </template>
        <button v-else class="press" @click="$emit('retry')">{{ delivery.state === 'paused' ? 'Go on' : 'Try again' }}</button>
        <template v-if="!making">
          <span class="gap" />
          <button v-if="delivery.state === 'done'" class="press quiet small" @click="naming = withoutEnding(delivery.file)">Rename</button>
          <button class="press quiet small danger" @click="removing = true">Delete</button>
        </template>
      </div>
    </div>
    <SendFile v-if="delivery.state === 'done'" v-model="sending" :delivery="delivery" @send="$emit('send', $event)" />
    <el-dialog v-model="removing" title="Delete this file?" width="440" append-to-body>
      <p>
        “{{ delivery.file }}”<template v-if="delivery.facts"
          >, {{ duration(delivery.facts.length) }} long, {{ fileSize(delivery.facts.bytes) }},</template
        >
        goes from the ledger and the disk. The talk stays as it is, and the file can be made again.
      </p>
      <template #footer
        ><button class="press" @click="removing = false">Keep it</button
        ><button class="press danger" @click="remove">Delete “{{ delivery.file }}”</button></template
      >
    </el-dialog>
  </article>
</template>

<style scoped>
.line {
  display: flex;
  gap: 16px;
  padding: 14px 16px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--card);
}
.words {
  flex: 1;
  display: grid;
  gap: 8px;
  min-width: 0;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
h3 {
  font: 600 16px var(--read);
  overflow-wrap: anywhere;
}
.facts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 24px;
  margin: 0;
  font-size: 14.5px;
}
.facts div {
  display: flex;
  gap: 10px;
}
dt {
  min-width: 68px;
  color: var(--soft);
}
dd {
  margin: 0;
}
.beside {
  display: flex;
  gap: 8px;
  font-size: 14.5px;
}
.over {
  color: var(--alarm);
  font-weight: 600;
}
video {
  width: 100%;
  background: #000;
}
audio {
  width: 100%;
}
.row {
  display: flex;
  gap: 10px;
  align-items: center;
}
.gap {
  flex: 1;
}
.naming {
  display: flex;
  gap: 6px;
  flex: 1;
}
</style>
