import js from '@eslint/js';
import globals from 'globals';
import svelte from 'eslint-plugin-svelte';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** Folders of the core in the order in which they may know one another: each imports only from those before it. */
const LAYERS = ['math', 'wasm', 'geometry', 'varying', 'kernels', 'formats', 'nodes', 'engine', 'session'];

const oneWay = LAYERS.map((layer, i) => ({
	files: [`core/${layer}/**/*.ts`],
	ignores: ['**/*.test.ts'],
	rules: {
		'no-restricted-imports': [
			'error',
			{
				patterns: [
					...LAYERS.slice(i + 1).map((later) => ({
						group: [`**/${later}/*`],
						message: `core/${layer} may not know core/${later}: imports point one way.`
					})),
					{
						group: ['svelte', 'three', '$lib/*', '$app/*', '**/src/*'],
						message: 'The core has no interface code.'
					}
				]
			}
		]
	}
}));

/** The same of the shell: where things are kept, how they are drawn, who works them out, what is edited, what is seen. */
const SHELL = ['store', 'viewport', 'worker', 'editor', 'ui'];

const oneWayInShell = SHELL.map((layer, i) => ({
	files: [`src/lib/${layer}/**/*.ts`, `src/lib/${layer}/**/*.svelte`],
	ignores: ['**/*.test.ts'],
	rules: {
		'no-restricted-imports': [
			'error',
			{
				patterns: SHELL.slice(i + 1).map((later) => ({
					group: [`$lib/${later}/*`, `../${later}/*`],
					message: `src/lib/${layer} may not know src/lib/${later}: imports point one way.`
				}))
			}
		]
	}
}));

/** Functions whose last bit differs from engine to engine. */
const unsteady = [
	'sin',
	'cos',
	'tan',
	'asin',
	'acos',
	'atan',
	'atan2',
	'sinh',
	'cosh',
	'tanh',
	'exp',
	'expm1',
	'log',
	'log2',
	'log10',
	'log1p',
	'pow',
	'cbrt',
	'hypot',
	'random'
];

export default ts.config(
	{ ignores: ['build/', '.svelte-kit/', '.tests/', 'node_modules/', 'test-results/', 'core/wasm/assembly/'] },
	js.configs.recommended,
	...ts.configs.recommended,
	...svelte.configs.recommended,
	{
		languageOptions: { globals: { ...globals.browser, ...globals.node } },
		rules: {
			'no-undef': 'off',
			'no-eval': 'error',
			'no-new-func': 'error',
			'no-implied-eval': 'error',
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }]
		}
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig } },
		rules: {
			'svelte/no-navigation-without-resolve': 'off',
			// Maps and sets here are values that are replaced, not changed.
			'svelte/prefer-svelte-reactivity': 'off'
		}
	},
	{
		files: ['core/**/*.ts'],
		ignores: ['**/*.test.ts'],
		rules: {
			'no-restricted-properties': [
				'error',
				...unsteady.map((property) => ({
					object: 'Math',
					property,
					message: 'Its last bit differs between engines: use core/math.'
				}))
			],
			'no-restricted-syntax': [
				'error',
				{
					selector: 'BinaryExpression[operator="**"]',
					message: 'Differs between engines: use pow of core/math.'
				}
			]
		}
	},
	{
		// Memory of columns has an owner, who counts it: see core/geometry/ledger.ts.
		files: ['core/geometry/**/*.ts', 'core/kernels/**/*.ts', 'core/nodes/**/*.ts'],
		ignores: ['**/*.test.ts', 'core/geometry/allocate.ts'],
		rules: {
			'no-restricted-syntax': [
				'error',
				{
					selector: 'BinaryExpression[operator="**"]',
					message: 'Differs between engines: use pow of core/math.'
				},
				{
					selector:
						'NewExpression[callee.name=/^(Float32|Float64|Int32|Uint32|Uint8|Uint16|Int8)Array$/] > :not(Literal).arguments',
					message: 'Columns are made by `allocate`, what is needed only for a while by `scratch`.'
				},
				{
					selector: 'CallExpression[callee.property.name="slice"][callee.object.property.name="data"]',
					message: 'A copy of a column is made by `copyOf`.'
				}
			]
		}
	},
	{
		files: ['**/*.test.ts'],
		rules: {
			'no-restricted-syntax': [
				'error',
				{
					selector: 'Program > ExpressionStatement > CallExpression[callee.name=/^(before|after)(Each)?$/]',
					message:
						'Files share a process, and a hook of no suite goes on for the files that follow: put it into `describe`.'
				}
			]
		}
	},
	...oneWay,
	...oneWayInShell
);
