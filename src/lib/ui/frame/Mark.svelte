<script lang="ts">
	interface Props {
		/** Pixels. */
		size: number;
		/** Widths of the lines: of the two pages, and of what runs on across them. */
		pages: number;
		run: number;
	}
	let { size, pages, run }: Props = $props();
</script>

<!-- Two pages, and the work that goes on from one to the other; for dark ground. -->
<svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
	<path d="M5 21V9h9v12zM18 23V11h9v12z" fill="none" stroke="#f7f5f0" stroke-width={pages} />
	<path
		d="M3 17c5-4 8 4 13 0s8-4 13 0"
		fill="none"
		stroke="#b79be0"
		stroke-width={run}
		stroke-linecap="round"
	/>
</svg>
