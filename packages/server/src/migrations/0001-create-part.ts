import type { MigrationInterface, QueryRunner } from "typeorm";

export class CreatePart1760000000001 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE "part" (
        "id" text PRIMARY KEY NOT NULL,
        "name" text NOT NULL,
        "document" text NOT NULL,
        "revision" integer NOT NULL,
        "preview" text NOT NULL,
        "createdAt" text NOT NULL,
        "updatedAt" text NOT NULL,
        "binnedAt" text
      )`);
    await runner.query(`CREATE INDEX "IDX_part_updatedAt" ON "part" ("updatedAt")`);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query(`DROP INDEX "IDX_part_updatedAt"`);
    await runner.query(`DROP TABLE "part"`);
  }
}
