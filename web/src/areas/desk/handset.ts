import { onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue';

const retryMs = 1_000;

/**
 * While wanted, this page plays the person's phone: the server knows it is there by an open socket. Loaded again in
 * the middle of a call, the page is back before the phone counts as gone.
 */
export function useHandset(wanted: Ref<boolean>) {
  const there = ref(false);
  let socket: WebSocket | null = null;
  let stopped = false;

  function open(): void {
    if (stopped || !wanted.value || socket !== null) return;
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws';
    const opened = new WebSocket(`${scheme}://${location.host}/api/desk/phone-line`);
    socket = opened;
    opened.onopen = () => (there.value = true);
    opened.onclose = () => {
      if (socket !== opened) return;
      socket = null;
      there.value = false;
      setTimeout(open, retryMs);
    };
  }

  function close(): void {
    const closing = socket;
    socket = null;
    there.value = false;
    closing?.close();
  }

  onMounted(open);
  watch(wanted, (now) => (now ? open() : close()));
  onBeforeUnmount(() => {
    stopped = true;
    close();
  });
  return { there };
}
