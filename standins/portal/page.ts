import type { PortalAssignment, PortalSubmission } from './portal';

const escape = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** The portal's one page: what arrived, newest first. */
export function portalPage(
	assignments: Readonly<Record<string, PortalAssignment>>,
	submissions: readonly PortalSubmission[]
): string {
	const rows = [...submissions]
		.reverse()
		.map((s) => {
			const state = s.recalledAt ? 'recalled' : s.late ? 'received late' : 'received';
			const name = escape(s.fileName);
			const file = s.recalledAt ? name : `<a href="/api/submissions/${escape(s.number)}/file">${name}</a>`;
			return `<tr><td>${escape(s.number)}</td><td>${escape(s.student)}</td>
			<td>${escape(assignments[s.assignmentId]?.title ?? '?')}</td><td>${file}</td>
			<td>${Math.round(s.bytes / 1000)} KB</td><td>${escape(s.receivedAt)}</td><td>${state}</td>
			<td><code title="SHA-256">${escape(s.sha256)}</code></td></tr>`;
		})
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
</style>
</head>
<body>
<h1>Stand-in grading portal</h1>
<p>This page belongs to a simulation that ships with Membrana. It shows what arrived.</p>
${submissions.length === 0 ? '<p>Nothing has arrived yet.</p>' : `<table><thead><tr><th>Receipt</th><th>Student</th><th>Assignment</th><th>File</th><th>Size</th><th>Received</th><th>State</th><th>SHA-256</th></tr></thead><tbody>${rows}</tbody></table>`}
</body>
</html>`;
}
