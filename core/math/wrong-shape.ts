/** What a check of a stranger's data found, in words for the artist: the schema's own speak of types. */
import type { z } from 'zod';
import { formatCount } from './errors.ts';

type Issue = z.core.$ZodIssue;

const EXPECTED: Readonly<Record<string, string>> = {
	number: 'a number',
	int: 'a whole number',
	string: 'a text',
	boolean: 'a yes or no',
	array: 'a list',
	tuple: 'a list',
	object: 'a group of values',
	record: 'a group of values'
};
/** Choices that are named; there may be hundreds. */
const NAMED = 4;

function bound(of: string, most: boolean, at: number | bigint): string {
	const [end, n] = [most ? 'most' : 'least', Number(at)];
	const plain = formatCount(n);
	if (of === 'string') return `a text of at ${end} ${plain} letters`;
	if (of === 'array' || of === 'map' || of === 'set' || of === 'tuple') return `a list of at ${end} ${plain}`;
	return `a number of at ${end} ${Number.isInteger(n) ? plain : n}`;
}

function wanted(issue: Issue): string {
	switch (issue.code) {
		case 'invalid_type':
			return EXPECTED[issue.expected] ?? 'something else';
		case 'too_small':
			return bound(issue.origin, false, issue.minimum);
		case 'too_big':
			return bound(issue.origin, true, issue.maximum);
		case 'invalid_value': {
			const named = issue.values.slice(0, NAMED).map((one) => `“${String(one)}”`);
			return issue.values.length > NAMED ? `one of ${named.join(', ')} …` : named.join(' or ');
		}
		default:
			return 'something else';
	}
}

/** The first thing that is wrong, as half a sentence: “nodes.0.scale: a list should stand there”. */
export function whatIsWrong({ issues: [issue] }: z.ZodError): string {
	const where = issue.path.map(String).join('.');
	return `${where ? `“${where}”: ` : ''}${wanted(issue as Issue)} should stand there`;
}
