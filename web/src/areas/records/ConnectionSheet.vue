<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import { type AllowedAddress, api, ApiProblem, ask, type Connection, ifMatch } from '../../api/client.ts';
import { useActing } from '../../kit/acting.ts';
import HistoryList from '../../kit/HistoryList.vue';
import LedgerField from '../../kit/LedgerField.vue';
import Shape from '../../kit/Shape.vue';
import Sheet from '../../kit/Sheet.vue';
import { useSession } from '../../shell/session.ts';
import { useNotices } from '../../shell/notices.ts';

const props = defineProps<{ connection: Connection | null; fields: string[] }>();
const emit = defineEmits<{ close: []; saved: [] }>();
const notices = useNotices();
const act = useActing();
const session = useSession();
const mayEdit = computed(() => session.mayEdit);
const tab = ref(0);
const draft = ref({ name: '', address: '', key: '', link: '' });
const faults = ref<Record<string, string>>({});
const general = ref('');
const busy = ref(false);
const tested = ref<{ ok: boolean; detail: string; afterMs: number; mayAllow: string | null } | null>(null);
const words = { name: 'Name', address: 'Address', link: 'Link' };

watch(
  () => props.connection?.id,
  () => {
    const { name = '', address = '', link = '' } = props.connection ?? {};
    draft.value = { name, address, link, key: '' };
  },
  { immediate: true },
);
const sample = computed(() => props.fields.map((field) => `{{ ${field} }}`).join('  '));

function refused(error: unknown): void {
  if (!(error instanceof ApiProblem)) throw error;
  faults.value = error.faults;
  general.value = Object.keys(error.faults).length === 0 ? error.detail : '';
}

async function test(): Promise<void> {
  busy.value = true;
  faults.value = {};
  tested.value = null;
  try {
    const { address, key } = draft.value;
    const body = { id: props.connection?.id ?? null, address, ...(key === '' ? {} : { key }) };
    tested.value = await ask(api.POST('/api/connections/test', { body }));
  } catch (error) {
    refused(error);
  } finally {
    busy.value = false;
  }
}

const allowed = ref<AllowedAddress[]>([]);
async function loadAllowed(): Promise<void> {
  allowed.value = await ask(api.GET('/api/allowed-addresses')).catch(() => []);
}
void loadAllowed();

/** An address of one's own house is asked once somebody says that it is. */
async function allow(address: string): Promise<void> {
  busy.value = true;
  try {
    await ask(api.PUT('/api/allowed-addresses/{address}', { params: { path: { address } } }));
    notices.say(`${address} may be asked.`, () => disallow(address));
    await Promise.all([test(), loadAllowed()]);
  } catch (error) {
    refused(error);
  } finally {
    busy.value = false;
  }
}

async function disallow(address: string): Promise<void> {
  const params = { path: { address } };
  if (
    await act(
      () => ask(api.DELETE('/api/allowed-addresses/{address}', { params })),
      `${address} is not asked any more.`,
    )
  )
    await loadAllowed();
}

async function save(): Promise<void> {
  busy.value = true;
  faults.value = {};
  general.value = '';
  try {
    const { key, ...rest } = draft.value;
    const body = key === '' ? rest : { ...rest, key };
    if (props.connection === null) await ask(api.POST('/api/connections', { body }));
    else {
      const params = { path: { id: props.connection.id }, header: ifMatch(props.connection.version) };
      await ask(api.PUT('/api/connections/{id}', { params, body }));
    }
    notices.say(`${draft.value.name} is connected.`);
    emit('saved');
  } catch (error) {
    refused(error);
  } finally {
    busy.value = false;
  }
}

async function turn(what: 'retire' | 'reactivate'): Promise<void> {
  const params = { path: { id: props.connection!.id }, header: ifMatch(props.connection!.version) };
  const path = what === 'retire' ? '/api/connections/{id}/retire' : '/api/connections/{id}/reactivate';
  const said = what === 'retire' ? 'is no longer asked. What was read stays.' : 'is asked again.';
  if (
    await act(
      () => ask(api.POST(path as '/api/connections/{id}/retire', { params })),
      `${props.connection!.name} ${said}`,
    )
  )
    emit('saved');
}
</script>

<template>
  <Sheet
    v-model:tab="tab"
    :title="connection?.name ?? 'Connect a customer system'"
    second="Where the customer records are"
    :tabs="connection === null ? [] : ['Connection', 'History']"
    @close="emit('close')"
  >
    <template v-if="tab === 0">
      <form @submit.prevent="save">
        <section>
          <LedgerField label="Name" for="connection-name" :fault="faults['/name']">
            <v-text-field
              id="connection-name"
              v-model="draft.name"
              autocomplete="off"
              placeholder="Harbour Book"
            />
          </LedgerField>
          <LedgerField label="Address" for="connection-address" :fault="faults['/address']">
            <v-text-field
              id="connection-address"
              v-model="draft.address"
              class="mono"
              placeholder="https://crm.example/api"
            />
          </LedgerField>
          <LedgerField
            label="Key"
            for="connection-key"
            :fault="faults['/key']"
            :hint="
              connection ? 'Sealed. Leave empty to keep the one that is stored.' : 'Sealed once it is saved.'
            "
          >
            <v-text-field
              id="connection-key"
              v-model="draft.key"
              type="password"
              autocomplete="off"
              class="mono"
            />
          </LedgerField>
          <LedgerField
            label="Page of a record"
            for="connection-link"
            :fault="faults['/link']"
            hint="Opened from the desk; fields are filled in."
          >
            <v-text-field
              id="connection-link"
              v-model="draft.link"
              class="mono"
              placeholder="https://crm.example/{{ record.id }}"
            />
          </LedgerField>
          <p class="second small fields mono">{{ sample }}</p>
          <p v-if="tested" role="status" :class="tested.ok ? '' : 'fault-text'">
            <Shape :name="tested.ok ? 'done' : 'fault'" /> {{ tested.detail }}
            <span class="second mono">{{ tested.afterMs }} ms</span>
          </p>
          <p v-if="tested?.mayAllow" class="allow">
            <v-btn :disabled="busy" @click="allow(tested.mayAllow)"
              >It is ours: allow {{ tested.mayAllow }}</v-btn
            >
          </p>
          <p v-if="general" class="fault-text" role="alert">{{ general }}</p>
          <div class="buttons">
            <v-btn type="submit" variant="flat" color="primary" :loading="busy">{{
              connection === null ? 'Connect and read' : 'Save and read'
            }}</v-btn>
            <v-btn :disabled="busy" @click="test">Test the connection</v-btn>
          </div>
        </section>
      </form>
      <section v-if="allowed.length > 0">
        <h3>Addresses of our own house that may be asked</h3>
        <ul class="addresses">
          <li v-for="each in allowed" :key="each.address">
            <span class="mono">{{ each.address }}</span>
            <span class="second small">{{
              each.byOperator ? 'by whoever runs the server' : `by ${each.by}`
            }}</span>
            <button
              v-if="!each.byOperator && mayEdit"
              class="link"
              type="button"
              @click="disallow(each.address)"
            >
              No longer
            </button>
          </li>
        </ul>
      </section>
      <section v-if="connection">
        <v-btn v-if="!connection.retired" @click="turn('retire')">Stop asking it</v-btn>
        <v-btn v-else @click="turn('reactivate')">Ask it again</v-btn>
      </section>
    </template>
    <HistoryList
      v-else-if="connection"
      :item-id="connection.id"
      :words="words"
      :show="(_field, value) => String(value)"
    />
  </Sheet>
</template>

<style scoped>
.addresses {
  list-style: none;
  padding: 4px 0 0;
}
.addresses li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  padding: 3px 0;
}
.allow {
  padding-bottom: 8px;
}
.fields {
  padding-bottom: 8px;
  overflow-wrap: anywhere;
}
</style>
