/** A command that cannot be carried out; its message is for the one who typed it. */
export class CommandProblem extends Error {}
