<script setup lang="ts">
import type { DeliveryView, PlaceView, PlacesView, SendingWish, SiteAudience, StandIns } from '@contracts'
import { api } from '~/client'
import { useTalk } from '~/stores/talk'
import { fileSize } from '~/words'

/** Sends a finished file somewhere: to a place of one's own, to a site, or by mail. */
const open = defineModel<boolean>({ required: true })
const props = defineProps<{ delivery: DeliveryView }>()
const emit = defineEmits<{ send: [wish: SendingWish] }>()
const talk = useTalk()
const way = ref<'place' | 'site' | 'mail'>('place')
const WAYS = [
  { value: 'place', label: 'A place of mine' },
  { value: 'site', label: 'A site' },
  { value: 'mail', label: 'By mail' },
] as const
const AUDIENCES: readonly { readonly value: SiteAudience; readonly label: string }[] = [
  { value: 'everybody', label: 'everybody' },
  { value: 'link', label: 'who has the link' },
  { value: 'nobody', label: 'nobody yet' },
]
const places = shallowRef<readonly PlaceView[]>([])
const standIns = shallowRef<StandIns | null>(null)
const chosen = ref('')
const changing = shallowRef<PlaceView | null>(null)
const placing = ref(false)
const site = ref({ address: '', title: '', description: '', audience: 'link' as SiteAudience })
const letter = ref({ to: '', with: 'link' as 'file' | 'link', words: '' })
const mailed = ref(false)
const { busy, trouble, attempt } = useAttempt()

const load = (): Promise<void> =>
  attempt(async () => {
    const found = await api.get<PlacesView>('/places')
    places.value = found.places
    standIns.value = found.standIns
    if (!found.places.some(({ id }) => id === chosen.value)) chosen.value = found.places[0]?.id ?? ''
  })
watch(open, (now) => {
  if (!now) return
  mailed.value = false
  site.value.title = talk.talk?.name ?? ''
  void load()
})
function place(one: PlaceView | null): void {
  changing.value = one
  placing.value = true
}
const drop = (id: string): Promise<void> =>
  attempt(async () => {
    await api.delete(`/places/${id}`)
    await load()
  })
function send(): void {
  const { address, ...notes } = site.value
  emit('send', way.value === 'place' ? { kind: 'place', place: chosen.value } : { kind: 'site', address: address.trim(), notes })
  open.value = false
}
const mail = (): Promise<void> =>
  attempt(async () => {
    await api.post(`/deliveries/${props.delivery.id}/mail`, letter.value)
    mailed.value = true
  })
const ready = computed(() => {
  if (way.value === 'mail') return letter.value.to.trim() !== ''
  return way.value === 'place' ? chosen.value !== '' : site.value.address.trim() !== '' && site.value.title.trim() !== ''
})
</script>

<template>
  <el-dialog v-model="open" title="Send this file" width="560" append-to-body>
    <div class="form">
      <p class="soft file">
        {{ delivery.file }}<template v-if="delivery.facts">, {{ fileSize(delivery.facts.bytes) }}</template>
      </p>
      <el-radio-group v-model="way" aria-label="Where to">
        <el-radio v-for="one in WAYS" :key="one.value" :value="one.value">{{ one.label }}</el-radio>
      </el-radio-group>
      <template v-if="way === 'place'">
        <p v-if="places.length === 0" class="soft">
          A folder of your school's cloud drive, or a server that takes uploads. It goes there while you do something else.
        </p>
        <el-radio-group v-else v-model="chosen" class="places" aria-label="Place">
          <span v-for="one in places" :key="one.id" class="place">
            <el-radio :value="one.id"
              ><b>{{ one.name }}</b> <span class="soft">{{ one.address }}</span></el-radio
            >
            <button class="press quiet small" @click="place(one)">Change</button>
            <button class="press quiet small danger" :aria-label="`Delete ${one.name}`" @click="drop(one.id)">Delete</button>
          </span>
        </el-radio-group>
        <div><button class="press small" @click="place(null)">Add a place</button></div>
      </template>
      <template v-else-if="way === 'site'">
        <label class="asked"
          >Address of the site
          <el-input v-model="site.address" maxlength="500" placeholder="https://films.example" aria-label="Address of the site" />
        </label>
        <p v-if="standIns && site.address === ''" class="soft">
          To practise: <button class="press small" @click="site.address = standIns.site">Take the practice site</button>
        </p>
        <label class="asked">Title <el-input v-model="site.title" maxlength="100" /></label>
        <label class="asked">Description <el-input v-model="site.description" type="textarea" :rows="3" maxlength="4000" /></label>
        <div class="asked">
          <span>Who may see it</span>
          <el-radio-group v-model="site.audience" aria-label="Who may see it">
            <el-radio v-for="one in AUDIENCES" :key="one.value" :value="one.value">{{ one.label }}</el-radio>
          </el-radio-group>
        </div>
        <p class="soft">Chapters and captions go along.</p>
      </template>
      <template v-else>
        <label class="asked">To <el-input v-model="letter.to" type="email" maxlength="254" placeholder="name@school.example" /></label>
        <el-radio-group v-model="letter.with" aria-label="What goes with it">
          <el-radio value="link">the link to the talk's page</el-radio><el-radio value="file">the file itself</el-radio>
        </el-radio-group>
        <label class="asked">Words above it <el-input v-model="letter.words" type="textarea" :rows="3" maxlength="2000" /></label>
        <p v-if="mailed" class="notice" role="status">Written. It stands in the <NuxtLink to="/outbox">Outbox</NuxtLink>.</p>
      </template>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
    </div>
    <template #footer>
      <button class="press" @click="open = false">{{ mailed ? 'Close' : 'Leave it' }}</button>
      <button class="press main" :disabled="!ready || busy" @click="way === 'mail' ? mail() : send()">
        {{ way === 'mail' ? 'Mail it' : 'Send it' }}
      </button>
    </template>
    <PlaceForm v-model="placing" :place="changing" @kept="load" />
  </el-dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
}
.file {
  overflow-wrap: anywhere;
}
.places {
  display: grid;
  gap: 2px;
}
.place {
  display: flex;
  gap: 4px;
  align-items: center;
}
.place .el-radio {
  flex: 1;
  min-width: 0;
  margin-right: 0;
}
.place :deep(.el-radio__label) {
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
