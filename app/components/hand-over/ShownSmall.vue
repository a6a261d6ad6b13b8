<script setup lang="ts">
/** The screening page as those who watch see it, small and live. */
const props = defineProps<{ address: string }>()
const path = computed(() => new URL(props.address).pathname)
const WIDTHS = { wide: 1280, phone: 360 } as const
const width = ref<keyof typeof WIDTHS>('wide')
/** Room there is for it, in pixels. */
const ROOM = { width: 706, height: 420 } as const
const scale = computed(() => Math.min(1, ROOM.width / WIDTHS[width.value]))
</script>

<template>
  <section aria-label="What they see">
    <div class="top">
      <h2>What they see</h2>
      <el-radio-group v-model="width" size="small" aria-label="How wide">
        <el-radio-button value="wide">at a desk</el-radio-button>
        <el-radio-button value="phone">on a phone</el-radio-button>
      </el-radio-group>
    </div>
    <div class="room" :style="{ height: `${ROOM.height}px` }">
      <iframe
        :key="`${path} ${width}`"
        :src="path"
        title="The screening page"
        :style="{ width: `${WIDTHS[width]}px`, height: `${ROOM.height / scale}px`, transform: `scale(${scale})` }"
      />
    </div>
  </section>
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  justify-content: space-between;
  padding-bottom: 10px;
}
h2 {
  font-size: 19px;
}
.room {
  border: 1px solid var(--line);
  overflow: hidden;
}
iframe {
  display: block;
  border: 0;
  transform-origin: 0 0;
}
</style>
