<!-- Stands at the corner of what can be dragged larger; `--handle` is its colour. -->
<template>
  <i class="corner" title="Drag to resize" />
</template>

<style scoped>
.corner {
  position: absolute;
  right: -6px;
  bottom: -6px;
  width: 14px;
  height: 14px;
  border: 2px solid var(--handle, var(--brand));
  border-radius: 3px;
  background: var(--card);
  cursor: nwse-resize;
  touch-action: none;
}
</style>
