<script lang="ts">
	// A picture of a page; until it is there, a sheet of its shape that is plainly being waited for.
	interface Props {
		/** Null while it is being made. */
		src: string | null;
		alt: string;
		/** Width over height. */
		ratio?: number;
		/** What is being waited for, in a word or two. */
		words?: string;
	}
	let { src, alt, ratio = 210 / 297, words = '' }: Props = $props();
	let shown = $state<string | null>(null);
	let failed = $state(false);
</script>

<span class="sheet" class:there={shown === src && src !== null} style:aspect-ratio={ratio}>
	{#if src}
		<img
			{src}
			{alt}
			loading="lazy"
			draggable="false"
			onload={() => ((shown = src), (failed = false))}
			onerror={() => (failed = true)}
		/>
	{/if}
	{#if failed}<span class="words">This picture did not come. Load the page again.</span>
	{:else if words && shown !== src}<span class="words">{words}</span>{/if}
</span>

<style>
	.sheet {
		position: relative;
		display: block;
		width: 100%;
		overflow: hidden;
		background:
			linear-gradient(100deg, transparent 30%, rgb(255 255 255 / 0.75) 50%, transparent 70%) 150% 0 / 250%
				100% no-repeat,
			repeating-linear-gradient(#ece8e0 0 6px, transparent 6px 18px) 0 12% / 100% 100%,
			#fffefb;
		background-clip: content-box, content-box, border-box;
		padding: 10% 12%;
		box-sizing: border-box;
		animation: pass 1.6s linear infinite;
	}
	.there {
		padding: 0;
		background: #fff;
		animation: none;
	}
	@keyframes pass {
		from {
			background-position:
				150% 0,
				0 0,
				0 0;
		}
		to {
			background-position:
				-50% 0,
				0 0,
				0 0;
		}
	}
	img {
		position: absolute;
		inset: 0;
		width: 100%;
		height: 100%;
		object-fit: contain;
		color: transparent;
		opacity: 0;
	}
	.there img {
		opacity: 1;
	}
	.words {
		position: absolute;
		inset: auto 0 40%;
		padding: 0.25rem 0.5rem;
		background: #fffefb;
		color: #5d5570;
		font-size: 0.8125rem;
		text-align: center;
	}
</style>
