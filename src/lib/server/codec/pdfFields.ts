import type { FormField } from '../../core/marks/formFields';
import { pageOf, withPdf } from './pdfIn';

/** What is used of a field as pdf.js gives it. */
interface Widget {
	readonly subtype: string;
	readonly fieldType?: string;
	readonly fieldName?: string;
	readonly alternativeText?: string;
	readonly rect: readonly number[];
	readonly readOnly?: boolean;
	readonly hidden?: boolean;
	readonly multiLine?: boolean;
	readonly checkBox?: boolean;
	readonly radioButton?: boolean;
	readonly buttonValue?: string | null;
	readonly options?: readonly { readonly displayValue: string }[];
}

/** The fields to fill in on a page (from 0) of a PDF, from the top down; none where it is no form. @throws SourceError */
export function pdfFormFields(path: string, index: number): Promise<FormField[]> {
	return withPdf(path, async (document) => {
		const page = await pageOf(document, index);
		const viewport = page.getViewport({ scale: 1 });
		const widgets = (await page.getAnnotations()) as Widget[];
		const fields = widgets.flatMap((widget, i): FormField[] => {
			const kind = kindOf(widget);
			if (!kind || widget.readOnly || widget.hidden) return [];
			const [x0, y0, x1, y1] = viewport.convertToViewportRectangle(widget.rect as number[]) as number[];
			const [left, top] = [Math.min(x0!, x1!) / viewport.width, Math.min(y0!, y1!) / viewport.height];
			const [wide, high] = [Math.abs(x1! - x0!) / viewport.width, Math.abs(y1! - y0!) / viewport.height];
			if (wide === 0 || high === 0) return [];
			const label = labelOf(widget, i);
			return [
				{
					id: `field-${index}-${i}`,
					label: widget.radioButton ? `${label}${choiceOf(widget.buttonValue)}` : label,
					kind,
					box: [left, top, wide, high],
					isLong: widget.multiLine ?? false,
					options: (widget.options ?? []).map((o) => o.displayValue),
					oneOf: widget.radioButton ? (widget.fieldName ?? null) : null
				}
			];
		});
		return fields.sort((a, b) => a.box[1] - b.box[1] || a.box[0] - b.box[0]);
	});
}

function kindOf({ subtype, fieldType, checkBox, radioButton }: Widget): FormField['kind'] | null {
	if (subtype !== 'Widget') return null;
	if (fieldType === 'Tx') return 'words';
	if (fieldType === 'Ch') return 'choice';
	return fieldType === 'Btn' && (checkBox || radioButton) ? 'tick' : null;
}

/** Which of several ticks it is: by its word, or by its number where the file has no word for it. */
function choiceOf(value: string | null | undefined): string {
	if (!value) return '';
	return /^\d+$/.test(value) ? `, choice ${Number(value) + 1}` : `: ${value}`;
}

/** What people read beside the field, or its name made readable. */
function labelOf({ alternativeText, fieldName }: Widget, index: number): string {
	const last = fieldName?.split('.').at(-1);
	const readable = last
		?.replace(/\[\d+\]$/, '')
		.replace(/[_-]+/g, ' ')
		.trim();
	return (alternativeText?.trim() || readable || `Field ${index + 1}`).slice(0, 120);
}
