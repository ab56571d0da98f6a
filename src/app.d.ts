declare module '*.embrell.json?raw' {
	const text: string;
	export default text;
}
declare global {
	namespace App {}
}
export {};
