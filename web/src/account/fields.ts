/** What is asked for in more than one form. */
export const NAME = { name: "name", label: "Name", complete: "username" };
export const PASSWORD = { name: "password", label: "Password", type: "password", complete: "current-password" } as const;
export const NEW_PASSWORD = {
  ...PASSWORD,
  complete: "new-password",
  note: "Eight characters at least: three or four words that do not belong together are good.",
} as const;

export const EMAIL = {
  name: "email",
  label: "E-mail, if you like",
  type: "email",
  complete: "email",
  optional: true,
  note: "Used for one thing: a letter to you, should you lose the password.",
} as const;
