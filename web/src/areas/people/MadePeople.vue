<script setup lang="ts">
import { locale } from '../../kit/locale.ts';
import { computed } from 'vue';
import LedgerTable from '../../kit/LedgerTable.vue';
import Shape from '../../kit/Shape.vue';
import { saveTable } from '../../kit/table-file.ts';
import type { FreshCode } from './fresh-codes.ts';

/** The codes of people just made, to hand out: kept until they are hidden, and nowhere but here. */
const props = defineProps<{ people: readonly FreshCode[]; waiting: number }>();
const emit = defineEmits<{ close: [] }>();

const columns = [
  { key: 'name', title: 'Name' },
  { key: 'login', title: 'Login', mono: true },
  { key: 'extension', title: 'Ext', width: '70px', mono: true },
  { key: 'signInCode', title: 'Sign-in code', width: '190px', mono: true },
  { key: 'enrolmentCode', title: 'Code for the phone', width: '190px', mono: true },
  { key: 'sentTo', title: 'Sent to' },
];

/** Where somebody begins: their login is filled in, their phone's code is. */
const signInAt = ({ login }: FreshCode) => `${location.origin}/?login=${encodeURIComponent(login)}`;
const enrolAt = (code: string) => `${location.origin}/enrol#${encodeURIComponent(code)}`;

function save(): void {
  saveTable(
    'codes of new people',
    [...columns.map((column) => column.title), 'Sign in at', 'Set up the phone at'],
    props.people.map((person) => [
      person.name,
      person.login,
      person.extension,
      person.signInCode,
      person.phone?.enrolmentCode ?? '',
      person.sentTo ?? '',
      signInAt(person),
      person.phone === null ? '' : enrolAt(person.phone.enrolmentCode),
    ]),
  );
}
const sent = computed(() => props.people.filter(({ sentTo }) => sentTo !== null).length);
const print = () => window.print();
</script>

<template>
  <div class="made">
    <div class="sentence">
      <span>
        <Shape name="done" /> <b>{{ people.length.toLocaleString(locale) }}</b>
        {{ people.length === 1 ? 'person has a code' : 'people have codes'
        }}{{ sent === 0 ? '' : `, ${sent.toLocaleString(locale)} by mail` }}. They are kept on this page until
        you hide them; each works one time within 14 days.
      </span>
      <span class="actions">
        <v-btn variant="flat" color="primary" @click="save">Save as CSV</v-btn>
        <v-btn @click="print">Print the sheet of codes and links</v-btn>
        <v-btn @click="emit('close')">{{
          waiting > 0 ? `Correct the other ${waiting.toLocaleString(locale)}` : 'I have them, hide them'
        }}</v-btn>
      </span>
    </div>
    <LedgerTable class="on-screen" caption="Codes of new people" :columns="columns" :rows="[...people]">
      <template #enrolmentCode="{ row }">{{ row.phone?.enrolmentCode }}</template>
    </LedgerTable>
    <table class="on-paper">
      <tr v-for="person in people" :key="person.id">
        <td>
          <b>{{ person.name }}</b><br />Sign in as {{ person.login }} with {{ person.signInCode }}<br />{{
            signInAt(person)
          }}<br />Phone: extension {{ person.extension
          }}<template v-if="person.phone"
            >, code {{ person.phone.enrolmentCode }}<br />{{ enrolAt(person.phone.enrolmentCode) }}</template
          >
        </td>
      </tr>
    </table>
  </div>
</template>

<style scoped>
.made {
  flex: 1;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.sentence {
  display: flex;
  align-items: center;
  gap: 10px;
  padding: 8px 20px;
  border-bottom: 1px solid var(--rule);
}
.actions {
  margin-left: auto;
  display: flex;
  gap: 8px;
  flex: none;
}
.on-paper {
  display: none;
}
@media print {
  .on-screen,
  .sentence {
    display: none;
  }
  .on-paper {
    display: table;
    width: 100%;
    border-collapse: collapse;
  }
  .on-paper td {
    border-bottom: 1px dashed #000;
    padding: 10px 0;
    break-inside: avoid;
    color: #000;
  }
}
</style>

<style>
/* Only the slips to hand out go on paper. */
@media print {
  nav.index,
  .bar-area,
  header.head {
    display: none !important;
  }
}
</style>
