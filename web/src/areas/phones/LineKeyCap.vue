<script setup lang="ts">
/** One key of a device: its lamp, its label, and who calls while it may be seen. `still` keys are pictures. */
withDefaults(
  defineProps<{
    label: string;
    place?: number;
    chosen?: boolean;
    light: 'off' | 'steady' | 'blinking';
    caller: string | null;
    faulty?: boolean;
    still?: boolean;
  }>(),
  { place: 0, chosen: false, faulty: false, still: false },
);
defineEmits<{ click: [] }>();
const lamp = { off: 'dark', steady: 'lit', blinking: 'blinks' };
</script>

<template>
  <component
    :is="still ? 'span' : 'button'"
    :type="still ? undefined : 'button'"
    class="key"
    :class="{ chosen, faulty, still }"
    :aria-pressed="still ? undefined : chosen"
    :aria-label="still ? undefined : `Key ${place}: ${label || 'not used'}, ${lamp[light]}`"
    @click="$emit('click')"
  >
    <span class="lamp" :class="light" aria-hidden="true" />
    <span class="label" :class="{ second: label === '' }"
      >{{ label || 'not used' }}<span v-if="caller" class="small caller">{{ caller }}</span></span
    >
    <span v-if="place > 0" class="mono second place" aria-hidden="true">{{ place }}</span>
  </component>
</template>

<style scoped>
.key {
  display: flex;
  align-items: center;
  gap: 8px;
  width: 100%;
  min-height: 30px;
  padding: 2px 8px;
  border: 1px solid var(--rule2);
  border-radius: 3px;
  background: none;
  color: inherit;
  text-align: left;
}
button.key {
  cursor: pointer;
}
.key.chosen {
  border-color: var(--brass);
  box-shadow: inset 0 -2px 0 var(--brass);
}
.key.faulty {
  border-color: var(--oxide);
}
.label {
  flex: 1;
  min-width: 0;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.caller {
  display: block;
  color: var(--ink2);
}
.place {
  font-size: 11px;
}
.lamp {
  flex: none;
  width: 14px;
  height: 4px;
  border: 1px solid var(--rule2);
}
.lamp.steady,
.lamp.blinking {
  background: var(--brass);
  border-color: var(--brass);
}
.lamp.blinking {
  animation: blink 1s steps(2, jump-none) infinite;
}
@keyframes blink {
  from {
    opacity: 1;
  }
  to {
    opacity: 0.15;
  }
}
@media (prefers-reduced-motion: reduce) {
  .lamp.blinking {
    animation: none;
    background: repeating-linear-gradient(90deg, var(--brass) 0 3px, transparent 3px 5px);
  }
}
</style>
