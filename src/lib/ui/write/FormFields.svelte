<script lang="ts">
	import type { Change } from '$lib/core/packet/change';
	import { fillingOf, valueIn, type FormField } from '$lib/core/marks/formFields';
	import type { Mark } from '$lib/core/marks/mark';
	import type { PageShape } from '$lib/core/marks/onPage';

	interface Props {
		fields: readonly FormField[];
		marks: readonly Mark[];
		shape: PageShape;
		/** In pixels. */
		picture: { readonly width: number; readonly height: number };
		page: string;
		/** The field that is being filled in. */
		current: string | null;
		onchange: (changes: readonly Change[]) => void;
	}
	let { fields, marks, shape, picture, page, current = $bindable(null), onchange }: Props = $props();

	const done = $derived(fields.filter((field) => valueIn(field, marks) !== '').length);

	function fill(field: FormField, value: string): void {
		if (value.trim() === valueIn(field, marks)) return;
		const mark = fillingOf(field, value, shape, picture);
		const others = fields.filter(
			(f) => field.oneOf !== null && f.oneOf === field.oneOf && f.id !== field.id && valueIn(f, marks) !== ''
		);
		const gone = mark ? others.map((f) => f.id) : [field.id];
		onchange([
			...gone.map((id): Change => ({ kind: 'removeMark', page, mark: id })),
			...(mark ? [{ kind: 'setMark', page, mark } as const] : [])
		]);
	}
	function focusin(field: FormField): void {
		current = field.id;
	}
</script>

<section aria-label="Fields of this worksheet">
	<h2>Fields of this worksheet</h2>
	<p class="hint">
		{done} of {fields.length} filled in. What you put here is written on the page; each step can be undone.
	</p>
	<ul>
		{#each fields as field (field.id)}
			{@const value = valueIn(field, marks)}
			<li class:current={field.id === current}>
				{#if field.kind === 'tick'}
					<label class="tick">
						<input
							type="checkbox"
							checked={value !== ''}
							onfocus={() => focusin(field)}
							onchange={(e) => fill(field, e.currentTarget.checked ? 'yes' : '')}
						/>
						{field.label}
					</label>
				{:else}
					<label>
						{field.label}
						{#if field.kind === 'choice'}
							<select
								{value}
								onfocus={() => focusin(field)}
								onchange={(e) => fill(field, e.currentTarget.value)}
							>
								<option value="">nothing</option>
								{#each field.options as option (option)}<option value={option}>{option}</option>{/each}
							</select>
						{:else if field.isLong}
							<textarea
								rows="3"
								{value}
								onfocus={() => focusin(field)}
								onchange={(e) => fill(field, e.currentTarget.value)}
							></textarea>
						{:else}
							<input
								type="text"
								{value}
								onfocus={() => focusin(field)}
								onchange={(e) => fill(field, e.currentTarget.value)}
							/>
						{/if}
					</label>
				{/if}
			</li>
		{/each}
	</ul>
</section>

<style>
	h2 {
		margin-bottom: 0.25rem;
		font-size: 1rem;
	}
	.hint {
		color: var(--ink-soft);
		font-size: 0.875rem;
		line-height: 1.4;
	}
	ul {
		display: grid;
		gap: 0.5rem;
		margin: 0.5rem 0 0;
		padding: 0;
		list-style: none;
	}
	li {
		padding-left: 0.5rem;
		border-left: 3px solid transparent;
	}
	li.current {
		border-left-color: var(--violet);
	}
	label {
		display: grid;
		gap: 0.25rem;
		color: var(--ink-soft);
		font-size: 0.8125rem;
		overflow-wrap: anywhere;
	}
	.tick {
		display: flex;
		align-items: center;
		gap: 0.5rem;
		min-height: 2rem;
		color: var(--ink);
		font-size: 0.9375rem;
		cursor: pointer;
	}
	input[type='text'],
	select,
	textarea {
		width: 100%;
		min-height: 2.25rem;
		padding: 0.25rem 0.5rem;
		border: 1px solid var(--edge);
		box-sizing: border-box;
		background: var(--white);
		color: var(--ink);
		font: inherit;
		font-size: 0.9375rem;
	}
	textarea {
		resize: vertical;
	}
	input[type='checkbox'] {
		accent-color: var(--violet);
	}
	@media (max-width: 700px) {
		input[type='text'],
		select,
		.tick {
			min-height: 2.75rem;
		}
	}
</style>
