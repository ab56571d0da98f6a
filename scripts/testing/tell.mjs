/** A reporter of node:test for `run-files.mjs`: hands every test, and the end of every file, to whoever started the process. */
import { inspect } from 'node:util';
import { MARK } from './names.mjs';

export default async function* tell(events) {
	for await (const { type, data } of events) {
		if (type !== 'test:pass' && type !== 'test:fail') continue;
		const { name, details, skip, todo } = data;
		if (name.startsWith(MARK)) process.send({ ended: name.slice(MARK.length) });
		else if (details.type !== 'suite')
			process.send({
				test: {
					name,
					milliseconds: details.duration_ms,
					isSkipped: skip !== undefined || todo !== undefined,
					error: type === 'test:fail' ? inspect(details.error?.cause ?? details.error, { depth: 4 }) : null
				}
			});
	}
	// A reporter is something that yields, though this one speaks otherwise.
	yield '';
}
