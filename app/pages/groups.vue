<script setup lang="ts">
import type { GroupView } from '@contracts'
import { useGroups } from '~/composables/useGroups'

/** People that somebody shares with and gathers from, such as a class. */
const { groups, trouble, load, make, change, remove } = useGroups()
const name = ref('')
const going = ref<GroupView | null>(null)
const open = ref<string | null>(null)
onMounted(load)
useHead({ title: 'Groups · Aisle Talk' })

async function add(): Promise<void> {
  await make(name.value.trim())
  if (trouble.value !== null) return
  name.value = ''
  open.value = groups.value?.at(-1)?.id ?? null
}
async function removeIt(): Promise<void> {
  if (going.value !== null) await remove(going.value)
  going.value = null
}
</script>

<template>
  <div>
    <ShellBar />
    <main class="groups">
      <h1>Groups</h1>
      <p class="soft">A class, a crew, a committee: people to share talks with. They need no account; a link is sent to their address.</p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <form class="new" @submit.prevent="add">
        <label>Name of a new group <el-input v-model="name" maxlength="100" placeholder="Tides, second year" /></label>
        <button class="press main" :disabled="name.trim() === ''">Make a group</button>
      </form>
      <section v-for="group in groups ?? []" :key="group.id" :aria-label="group.name">
        <header>
          <DraftInput
            class="name"
            :model-value="group.name"
            aria-label="Name of the group"
            maxlength="100"
            @update:model-value="$event.trim() === '' || change(group, { name: $event.trim() })"
          />
          <span class="soft">{{ group.members.length === 1 ? '1 person' : `${group.members.length} people` }}</span>
          <button class="press small" :aria-expanded="open === group.id" @click="open = open === group.id ? null : group.id">
            {{ open === group.id ? 'Close' : 'Who is in it' }}
          </button>
          <button class="press quiet small" @click="going = group">Delete</button>
        </header>
        <PeopleList
          v-if="open === group.id"
          :people="group.members"
          :label="`People in ${group.name}`"
          @change="change(group, { members: $event })"
        />
      </section>
      <p v-if="groups?.length === 0" class="empty soft">No group yet. Name one above, then paste its list of addresses.</p>
    </main>
    <el-dialog :model-value="going !== null" title="Delete this group?" width="440" append-to-body @close="going = null">
      <p>“{{ going?.name }}” and its list go. Whatever was shared with it is shown to nobody until you choose somebody else.</p>
      <template #footer>
        <button class="press" @click="going = null">Keep it</button><button class="press main" @click="removeIt">Delete it</button>
      </template>
    </el-dialog>
  </div>
</template>

<style scoped>
.groups {
  display: grid;
  gap: 18px;
  max-width: 760px;
  margin: 0 auto;
  padding: 28px 20px 60px;
}
h1 {
  font-size: 26px;
}
.new {
  display: flex;
  gap: 12px;
  align-items: end;
}
.new label {
  display: grid;
  flex: 1;
  gap: 4px;
}
section {
  display: grid;
  gap: 14px;
  padding: 16px 20px;
  border: 1px solid var(--line);
  background: var(--card);
}
header {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 14px;
  align-items: center;
}
.name {
  flex: 1;
  min-width: 180px;
  border: 0;
  background: transparent;
  font: 600 18px var(--display);
}
.empty {
  padding: 30px 0;
}
</style>
