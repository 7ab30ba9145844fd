import type { MigrationInterface, QueryRunner } from "typeorm";

/** What searches for collisions have found, so that a document is searched once. */
export class CreateSearched1764400000007 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`CREATE TABLE "searched" ("key" text PRIMARY KEY NOT NULL, "findings" text NOT NULL)`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "searched"`);
  }
}
