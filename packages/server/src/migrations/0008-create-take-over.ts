import type { MigrationInterface, QueryRunner } from "typeorm";

/** Changes of stock that parts take over: each with the parts it is to change, and what became of them. */
export class CreateTakeOver1764500000008 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE "take_over" (
        "id" text PRIMARY KEY NOT NULL,
        "startedAt" text NOT NULL,
        "endedAt" text,
        "state" text NOT NULL,
        "cards" text NOT NULL
      )`);
    await runner.query(`
      CREATE TABLE "take_over_part" (
        "job" text NOT NULL,
        "place" integer NOT NULL,
        "part" text NOT NULL,
        "name" text NOT NULL,
        "state" text NOT NULL,
        "revision" integer,
        "why" text,
        PRIMARY KEY ("job", "place")
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "take_over_part"`);
    await runner.query(`DROP TABLE "take_over"`);
  }
}
