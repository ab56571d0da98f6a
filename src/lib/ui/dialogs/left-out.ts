/** Sentences of what was left out of a file, as rows of a table: what it was, where it stood, and why it is not there. */

export interface LeftOutRow {
	what: string;
	where: string;
	why: string;
}

/** How sentences of `openDocument` and `unpackGenerator` are made; any other one tells its reason alone. */
const FORMS: readonly [RegExp, (found: RegExpExecArray) => LeftOutRow][] = [
	[
		/^The setting “(.*)” of node (.*?) was left out: (.*)$/s,
		([, name, node, why]) => ({ what: `Setting “${name}”`, where: node, why })
	],
	[/^Node (.*?) was left out: (.*)$/s, ([, node, why]) => ({ what: 'Node', where: node, why })],
	[
		/^A wire to (.*?) \((.*?)\) was left out: (.*)$/s,
		([, node, input, why]) => ({ what: 'Wire', where: `${node}, ${input}`, why })
	],
	[/^(Wire|Note) (\d+) was left out: (.*)$/s, ([, what, n, why]) => ({ what, where: `number ${n}`, why })],
	[/^(The .*?) could not be read \((.*)\)\.$/s, ([, what, why]) => ({ what, where: 'the file', why })]
];

const sentence = (text: string): string => {
	const trimmed = text.trim();
	const begun = trimmed.charAt(0).toUpperCase() + trimmed.slice(1);
	return /[.!?]$/.test(begun) ? begun : `${begun}.`;
};

export function leftOutRow(told: string): LeftOutRow {
	for (const [form, make] of FORMS) {
		const found = form.exec(told);
		if (!found) continue;
		const row = make(found);
		return { ...row, why: sentence(row.why) };
	}
	return { what: 'Something', where: 'the file', why: told };
}
