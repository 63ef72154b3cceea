/** What was refused of one of the forms on the shop's page, and what had been typed. */
export interface Refusal {
  intent: string;
  errors: Record<string, string>;
  typed: Record<string, string>;
}
