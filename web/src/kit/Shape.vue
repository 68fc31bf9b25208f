<script setup lang="ts">
/** The 12 px shape of a state: the family says what it is, the filling how it is. */
export type ShapeName =
  | 'available'
  | 'ringing'
  | 'talking'
  | 'wrappingUp'
  | 'away'
  | 'signedOut'
  | 'registered'
  | 'unregistered'
  | 'refused'
  | 'none'
  | 'outside'
  | 'up'
  | 'off'
  | 'draft'
  | 'changed'
  | 'open'
  | 'closed'
  | 'storm'
  | 'running'
  | 'paused'
  | 'finished'
  | 'fault'
  | 'missing'
  | 'done'
  | 'messageNew'
  | 'messageHeard'
  | 'messageKept';

defineProps<{ name: ShapeName; tone?: 'fault' }>();
</script>

<template>
  <svg class="shape" :class="[name, tone]" viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
    <circle v-if="name === 'available'" cx="6" cy="6" r="4.2" class="line ink" />
    <g v-else-if="name === 'ringing'" class="brass">
      <circle cx="6" cy="6" r="1.9" class="full" />
      <path
        d="M2.600 2.600a4.800 4.800 0 0 0 0 6.800M9.400 2.600a4.800 4.800 0 0 1 0 6.800"
        class="line thin"
      />
    </g>
    <circle v-else-if="name === 'talking'" cx="6" cy="6" r="5" class="full teal" />
    <g v-else-if="name === 'wrappingUp'" class="teal">
      <circle cx="6" cy="6" r="4.400" class="line" />
      <path d="M6 1.600a4.400 4.400 0 0 1 0 8.800z" class="full" />
    </g>
    <g v-else-if="name === 'away'" class="ink2">
      <circle cx="6" cy="6" r="4.200" class="line thin" />
      <path d="M.5 6h11" class="line" />
    </g>
    <circle v-else-if="name === 'signedOut'" cx="6" cy="6" r="4.400" class="line ink2 dotted" />
    <rect v-else-if="name === 'registered'" x="1.500" y="1.500" width="9" height="9" class="full teal" />
    <rect v-else-if="name === 'unregistered'" x="2" y="2" width="8" height="8" class="line thin ink2" />
    <path
      v-else-if="name === 'refused'"
      fill-rule="evenodd"
      d="M1 1h10v10H1zM3.700 2.800 6 5.100l2.300-2.300.9.900L6.900 6l2.300 2.300-.9.900L6 6.900 3.700 9.200l-.9-.9L5.100 6 2.800 3.700z"
      class="full oxide"
    />
    <g v-else-if="name === 'outside'" class="teal">
      <rect x="2" y="2" width="8" height="8" class="line thin" />
      <path d="M4.300 7.700 9 3M5.600 3H9v3.400" class="line thin" />
    </g>
    <path v-else-if="name === 'up'" d="M2 1.500h3v9H2zM7 1.500h3v9H7z" class="full teal" />
    <path v-else-if="name === 'off'" d="M2.500 2h2v8h-2zM7.500 2h2v8h-2z" class="line thin oxide" />
    <g v-else-if="name === 'draft'" class="plum">
      <path d="M2.500 1v11" class="line" />
      <path d="M2.500 1.700 10 4.700 2.500 7.700" class="line thin" />
    </g>
    <g v-else-if="name === 'changed'" class="plum">
      <path d="M2.500 1v11" class="line" />
      <path d="M2.500 1.700 10 4.700 2.500 7.700z" class="line thin" />
      <path d="M2.500 1.700 10 4.700H2.500z" class="full" />
    </g>
    <path v-else-if="name === 'open'" d="M1 9.500a5 5 0 0 1 10 0zM5.200 3h1.600v2H5.200z" class="full teal" />
    <path
      v-else-if="name === 'closed'"
      d="M1.700 9.300a4.300 4.300 0 0 1 8.600 0zM6 3v1.800"
      class="line thin ink2"
    />
    <path
      v-else-if="name === 'storm'"
      d="M1.700 9.300a4.300 4.300 0 0 1 8.600 0zM6 3v1.800M1 11 11 2"
      class="line thin ink"
    />
    <g v-else-if="name === 'running'" class="teal">
      <path d="M2.500 1v11" class="line" />
      <path d="M2.500 1 10.500 4.700 2.500 8.400z" class="full" />
    </g>
    <g v-else-if="name === 'paused'" class="ink2">
      <path d="M2 1v11" class="line" />
      <path d="M5 1.500h1.700v6H5zM8.300 1.500H10v6H8.300z" class="full" />
    </g>
    <g v-else-if="name === 'finished'" class="ink2">
      <path d="M2 1v11" class="line" />
      <circle cx="7.500" cy="4.500" r="2.800" class="line thin" />
    </g>
    <path v-else-if="name === 'none'" d="M2 10 10 2" class="line oxide" />
    <path v-else-if="name === 'fault'" d="M6 1 11.500 11H.5z" class="full oxide" />
    <path v-else-if="name === 'missing'" d="M6 2 10.800 10.500H1.200z" class="line thin ink2" />
    <path v-else-if="name === 'done'" d="M1.500 6.500 4.500 9.500 10.500 2.500" class="line teal" />
    <path
      v-else-if="name === 'messageNew'"
      fill-rule="evenodd"
      d="M4 2.500h7.500v7H4L.5 6zM4.200 5.200v1.600h1.600V5.200z"
      class="full brass"
    />
    <path v-else-if="name === 'messageHeard'" d="M4.200 3H11v6H4.200L1.200 6z" class="line thin ink2" />
    <g v-else-if="name === 'messageKept'" class="ink2">
      <path d="M4.200 3H11v6H4.200L1.200 6z" class="line thin" />
      <path d="M4.200 3H11v3H1.200z" class="full" />
    </g>
  </svg>
</template>

<style scoped>
.shape {
  flex: none;
  vertical-align: -1px;
}
.ink {
  color: var(--ink);
}
.ink2 {
  color: var(--ink2);
}
.brass {
  color: var(--brass);
}
.teal {
  color: var(--teal);
}
.plum {
  color: var(--plum);
}
.oxide,
.fault.unregistered rect {
  color: var(--oxide);
}
.full {
  fill: currentColor;
}
.line {
  fill: none;
  stroke: currentColor;
  stroke-width: 1.8;
}
.thin {
  stroke-width: 1.4;
}
.dotted {
  stroke-width: 1.4;
  stroke-dasharray: 1.5 1.95;
}
</style>
