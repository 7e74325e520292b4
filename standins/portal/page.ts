import type { Faults } from './faults';
import type { PortalAssignment, PortalSubmission } from './submissions';

const escape = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** The portal's one page: what arrived, newest first, and the panel of what the stand-in does wrong. */
export function portalPage(
	assignments: readonly PortalAssignment[],
	submissions: readonly PortalSubmission[],
	faults: Faults
): string {
	const titles = new Map(assignments.map((a) => [a.id, a.title]));
	const rows = [...submissions]
		.reverse()
		.map((s) => row(s, titles.get(s.assignmentId) ?? '?'))
		.join('\n');
	return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<title>Stand-in grading portal</title>
<style>
body { font: 16px/1.5 system-ui, sans-serif; margin: 2rem; color: #222; }
table { border-collapse: collapse; width: 100%; }
th, td { text-align: left; padding: 0.4rem 0.6rem; border-bottom: 1px solid #bbb; vertical-align: top; }
code { font-size: 0.75rem; word-break: break-all; }
form { display: flex; flex-wrap: wrap; gap: 0.5rem 1.25rem; align-items: end; padding: 1rem; margin: 0 0 1.5rem;
	border: 2px dashed #777; background: #f4f4f4; }
form h2 { flex-basis: 100%; margin: 0; font-size: 1.1rem; }
label { display: grid; font-size: 0.9rem; }
label.tick { display: block; }
input[type=number] { width: 8rem; }
</style>
</head>
<body>
<h1>Stand-in grading portal</h1>
<p>This page belongs to a simulation that ships with Membrana. It shows what arrived.</p>
${panel(faults)}
${submissions.length === 0 ? '<p>Nothing has arrived yet.</p>' : `<table><thead><tr><th>Receipt</th><th>Student</th><th>Assignment</th><th>File</th><th>Comment</th><th>Size</th><th>Received</th><th>State</th><th>SHA-256</th></tr></thead><tbody>${rows}</tbody></table>`}
</body>
</html>`;
}

function row(s: PortalSubmission, title: string): string {
	const state = s.recalledAt
		? 'recalled'
		: s.replacedBy
			? `replaced by ${s.replacedBy}`
			: s.late
				? 'received late'
				: 'received';
	const name = escape(s.fileName);
	const file = s.recalledAt ? name : `<a href="/api/submissions/${escape(s.number)}/file">${name}</a>`;
	return `<tr><td>${escape(s.number)}</td><td>${escape(s.student)}</td><td>${escape(title)}</td><td>${file}</td>
		<td>${escape(s.comment)}</td><td>${Math.round(s.bytes / 1000)} KB</td><td>${escape(s.receivedAt)}</td>
		<td>${escape(state)}</td><td><code title="SHA-256">${escape(s.sha256)}</code></td></tr>`;
}

function panel(faults: Faults): string {
	const choice = (name: string, value: string | number | null, options: readonly [string, string][]) =>
		`<select name="${name}">${options
			.map(
				([v, text]) => `<option value="${v}"${v === String(value ?? '') ? ' selected' : ''}>${text}</option>`
			)
			.join('')}</select>`;
	const tick = (name: string, on: boolean, text: string) =>
		`<label class="tick"><input type="checkbox" name="${name}"${on ? ' checked' : ''}> ${text}</label>`;
	return `<form method="post" action="/standin/faults">
<h2>What the stand-in does wrong (the simulation's own panel)</h2>
<label>Slow, by milliseconds <input type="number" name="slow" min="0" max="120000" value="${faults.slow || ''}"></label>
<label>Cut the line at byte <input type="number" name="cutAt" min="0" value="${faults.cutAt ?? ''}"></label>
<label>Answer with ${choice('status', faults.status, [
		['', 'nothing of the kind'],
		['500', '500, an error'],
		['503', '503, come back later']
	])}</label>
<label>Refuse the file's ${choice('refuse', faults.refuse, [
		['', 'nothing'],
		['size', 'size'],
		['type', 'type']
	])}</label>
${tick('loseAnswer', faults.loseAnswer, 'take the file, lose the answer')}
${tick('pastDue', faults.pastDue, 'past due')}
<label>For so many requests <input type="number" name="times" min="1" value="${faults.times ?? ''}"></label>
<button>Set</button> <button formaction="/standin/faults" formnovalidate name="reset" value="1">All off</button>
</form>`;
}
