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

async function add(wanted: string): Promise<void> {
  await make(wanted)
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
    <main class="column">
      <h1>Groups</h1>
      <p class="soft">A class, a crew, a committee: people to share talks with. They need no account; a link is sent to their address.</p>
      <p v-if="trouble" class="notice bad" role="alert">{{ trouble }}</p>
      <MakeByName v-model="name" label="Name of a new group" placeholder="Tides, second year" action="Make a group" @make="add" />
      <NamedSheet
        v-for="group in groups ?? []"
        :key="group.id"
        :name="group.name"
        label="Name of the group"
        @rename="change(group, { name: $event })"
      >
        <template #actions>
          <span class="soft">{{ group.members.length === 1 ? '1 person' : `${group.members.length} people` }}</span>
          <button class="press small" :aria-expanded="open === group.id" @click="open = open === group.id ? null : group.id">
            {{ open === group.id ? 'Close' : 'Who is in it' }}
          </button>
          <button class="press quiet small" @click="going = group">Delete</button>
        </template>
        <PeopleList
          v-if="open === group.id"
          :people="group.members"
          :label="`People in ${group.name}`"
          @change="change(group, { members: $event })"
        />
      </NamedSheet>
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
.empty {
  padding: 30px 0;
}
</style>
