import { Controller, Get, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { DataSource } from 'typeorm';
import { Rules } from '../http/routeRules.js';

@ApiTags('health')
@Controller('health')
export class HealthController {
  constructor(private readonly db: DataSource) {}

  /** 200 while both server and database answer, 503 while the database does not. */
  @Get()
  @Rules({ open: true, body: 'none' })
  async health(@Res() reply: FastifyReply): Promise<void> {
    const database = await this.db.query('SELECT 1').then(
      () => 'up',
      () => 'down',
    );
    void reply.status(database === 'up' ? 200 : 503).send({ server: 'up', database });
  }
}
