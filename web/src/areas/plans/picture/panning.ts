import { select } from 'd3-selection';
import { zoom, zoomIdentity, type ZoomTransform } from 'd3-zoom';
import { onBeforeUnmount, onMounted, type Ref, ref } from 'vue';
import type { Point } from './geometry.ts';

export const leastScale = 0.2;
export const mostScale = 2;

/** What of a picture is seen, in its own measure. */
export interface View {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Moving and sizing a picture: dragging its ground and the wheel move it, the wheel with Ctrl sizes it. Only a layer is
 * transformed; nothing is drawn anew.
 */
export function usePanning(frame: Ref<HTMLElement | null>, layer: Ref<SVGGElement | null>) {
  const view = ref<View>({ x: 0, y: 0, width: 1, height: 1 });
  let now: ZoomTransform = zoomIdentity;

  function show(transform: ZoomTransform): void {
    now = transform;
    const { x, y, k } = transform;
    if (layer.value !== null) layer.value.style.transform = `translate(${x}px,${y}px) scale(${k})`;
    const { clientWidth: width = 1, clientHeight: height = 1 } = frame.value ?? {};
    view.value = { x: -x / k, y: -y / k, width: width / k, height: height / k };
  }

  const behaviour = zoom<HTMLElement, unknown>()
    .scaleExtent([leastScale, mostScale])
    .filter((event: Event) => {
      if (event.type === 'wheel') return (event as WheelEvent).ctrlKey;
      // What is carried is no ground.
      return (event as MouseEvent).button === 0 && !(event.target as Element).closest('[data-carries]');
    })
    .on('zoom', ({ transform }: { transform: ZoomTransform }) => show(transform));
  const selection = () => select(frame.value!);
  const moveBy = (x: number, y: number) => selection().call(behaviour.translateBy, x / now.k, y / now.k);

  function wheel(event: WheelEvent): void {
    if (event.ctrlKey) return;
    event.preventDefault();
    moveBy(-event.deltaX, -event.deltaY);
  }

  onMounted(() => {
    selection().call(behaviour).on('dblclick.zoom', null);
    frame.value!.addEventListener('wheel', wheel, { passive: false });
    show(now);
    seen.observe(frame.value!);
  });
  const seen = new ResizeObserver(() => show(now));
  onBeforeUnmount(() => seen.disconnect());

  /** Larger or smaller, about the middle. */
  const sizeBy = (factor: number) => selection().call(behaviour.scaleBy, factor);
  const whole = () => selection().call(behaviour.transform, zoomIdentity);

  /** As large as all of it can be seen, not larger than drawn. */
  function fit({ width, height }: { width: number; height: number }): void {
    const { clientWidth, clientHeight } = frame.value!;
    const scale = Math.max(leastScale, Math.min(1, clientWidth / width, clientHeight / height));
    selection().call(behaviour.transform, zoomIdentity.scale(scale));
  }

  /** Moved just so far that this can be seen, with room around it. */
  function reveal({ x, y }: Point): void {
    const { x: left, y: top, width, height } = view.value;
    const room = { x: Math.min(90, width / 3), y: Math.min(50, height / 3) };
    const by = (at: number, from: number, length: number, margin: number) =>
      at < from + margin ? from + margin - at : at > from + length - margin ? from + length - margin - at : 0;
    const [dx, dy] = [by(x, left, width, room.x), by(y, top, height, room.y)];
    if (dx !== 0 || dy !== 0) selection().call(behaviour.translateBy, dx, dy);
  }

  const centre = ({ x, y }: Point) => selection().call(behaviour.translateTo, x, y);

  /** Where a pointer is, in the picture's own measure. */
  function at(event: { clientX: number; clientY: number }): Point {
    const { left, top } = frame.value!.getBoundingClientRect();
    const [x, y] = now.invert([event.clientX - left, event.clientY - top]);
    return { x, y };
  }

  return { view, sizeBy, whole, fit, reveal, centre, at };
}
