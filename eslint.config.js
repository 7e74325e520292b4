import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

export default ts.config(
	{
		ignores: [
			'build/',
			'build-node/',
			'.svelte-kit/',
			'data/',
			'test-results/',
			'playwright-report/',
			'src/lib/core/kernels/signatures.d.ts',
			// AssemblyScript has types and operators of its own.
			'src/lib/core/kernels/assembly/'
		]
	},
	js.configs.recommended,
	...ts.configs.strict,
	...svelte.configs.recommended,
	{
		languageOptions: { globals: { ...globals.browser, ...globals.node } },
		rules: {
			// Typed arrays are read without checks inside pixel loops; the index is known to be in range.
			'@typescript-eslint/no-non-null-assertion': 'off',
			'@typescript-eslint/no-explicit-any': 'error',
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
			'@typescript-eslint/no-invalid-void-type': 'off',
			'svelte/no-navigation-without-resolve': 'off',
			'no-undef': 'off'
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: {
			parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig }
		}
	},
	{
		// Loaded before everything else, where only this works.
		files: ['**/*.cjs'],
		rules: { '@typescript-eslint/no-require-imports': 'off' }
	},
	{
		// Bodies come through one door, which has read and checked them: nothing reads a stream of its own.
		files: ['src/routes/**/*.ts'],
		rules: {
			'no-restricted-syntax': [
				'error',
				{
					selector: "MemberExpression[object.name='request'][property.name=/^(body|arrayBuffer|blob|text)$/]",
					message: 'Read request.json() or request.formData(): what admit() has not checked stays outside.'
				}
			]
		}
	},
	{
		// The core stays pure: nothing from outside itself but Joi, the parser of dates and the shape of strokes.
		files: ['src/lib/core/**/*.ts'],
		ignores: ['**/*.test.ts'],
		rules: {
			'no-restricted-imports': [
				'error',
				{
					patterns: [
						{
							regex: '^(?!joi$|chrono-node$|perfect-freehand$|\\.{1,2}/)',
							message:
								'The core imports nothing from outside itself but Joi, chrono-node and perfect-freehand.'
						},
						{
							regex: '^(\\.\\./)+(server|ui|workers|routes|generator|demo)(/|$)',
							message: 'Arrows point one way: routes -> ui, server -> core.'
						}
					]
				}
			],
			'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'fetch', 'localStorage']
		}
	},
	{
		files: [
			'src/lib/server/**/*.ts',
			'src/lib/ui/**/*.ts',
			'src/lib/ui/**/*.svelte',
			'src/lib/workers/**/*.ts'
		],
		ignores: ['**/*.test.ts'],
		rules: {
			'no-restricted-imports': [
				'error',
				{ patterns: [{ regex: 'routes/', message: 'Arrows point one way: routes -> ui, server -> core.' }] }
			]
		}
	}
);
