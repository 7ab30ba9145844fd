import type { MigrationInterface, QueryRunner } from "typeorm";

export class CreateStock1760000000002 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE "stock_item" (
        "section" text NOT NULL,
        "id" text NOT NULL,
        "name" text NOT NULL,
        "item" text NOT NULL,
        "revision" integer NOT NULL,
        "place" integer NOT NULL,
        "updatedAt" text NOT NULL,
        PRIMARY KEY ("section", "id")
      )`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP TABLE "stock_item"`);
  }
}
