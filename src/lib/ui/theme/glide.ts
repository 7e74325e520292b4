import { cubicOut } from 'svelte/easing';
import { prefersReducedMotion } from 'svelte/motion';
import type { AnimationConfig } from 'svelte/animate';

/**
 * An item of a list goes to its new place before one's eyes; at once where less motion is wished for. It keeps its size on
 * the way, so that what stands in it is never squeezed.
 */
export function glide(_: Element, { from, to }: { from: DOMRect; to: DOMRect }): AnimationConfig {
	const [x, y] = [from.left - to.left, from.top - to.top];
	return {
		duration: prefersReducedMotion.current ? 0 : 250,
		easing: cubicOut,
		css: (_, left) => `transform: translate(${left * x}px, ${left * y}px)`
	};
}
