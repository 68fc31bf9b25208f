<script setup lang="ts">
import type { EmergencyAddress } from '@night-bell/core/model/emergency-address';
import LedgerField from './LedgerField.vue';

/** A dispatchable address: where help finds the caller. Null for none. */
const props = defineProps<{ id: string; readonly: boolean; faults: Record<string, string>; path: string }>();
const model = defineModel<EmergencyAddress | null>({ required: true });

const lines = [
  { key: 'street', label: 'Street', placeholder: '12 Harbor Street' },
  { key: 'unit', label: 'Floor, room', placeholder: 'left out for a house' },
  { key: 'city', label: 'City', placeholder: 'Seattle' },
  { key: 'region', label: 'State', placeholder: 'WA' },
  { key: 'postalCode', label: 'Postal code', placeholder: '98101' },
  { key: 'country', label: 'Country', placeholder: 'US' },
] as const;

function set(key: keyof EmergencyAddress, value: string): void {
  model.value = { ...(model.value ?? empty), [key]: value };
}
const empty: EmergencyAddress = { street: '', unit: '', city: '', region: '', postalCode: '', country: 'US' };
const faultOf = (key: string) => props.faults[`${props.path}/${key}`];
</script>

<template>
  <div>
    <LedgerField
      v-for="line in lines"
      :key="line.key"
      :label="line.label"
      :for="`${id}-${line.key}`"
      :fault="faultOf(line.key)"
    >
      <v-text-field
        :id="`${id}-${line.key}`"
        :model-value="model?.[line.key] ?? ''"
        :placeholder="line.placeholder"
        :readonly="readonly"
        autocomplete="off"
        @update:model-value="set(line.key, $event)"
      />
    </LedgerField>
  </div>
</template>
