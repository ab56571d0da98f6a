/** The types of it that are used: it has none of its own. */
declare module 'three/examples/jsm/loaders/usd/USDAParser.js' {
	export class USDAParser {
		parseData(text: string): unknown;
	}
}
