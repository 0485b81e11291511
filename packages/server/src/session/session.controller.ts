import { Body, Controller, Get, HttpCode, Inject, Post, Put, Query, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { IsString, MaxLength, MinLength } from 'class-validator';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { SessionView } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { COOKIE, COOKIE_DAYS, SessionService } from './session.service.js';

export class EntryQuery {
  @IsString() @MaxLength(200) code: string;
}

export class Passphrase {
  @IsString() @MinLength(1) @MaxLength(500) passphrase: string;
}

export class NewPassphrase {
  @IsString() @MaxLength(500) passphrase: string;
}

function setCookie(reply: FastifyReply, token: string): void {
  void reply.setCookie(COOKIE, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'strict',
    maxAge: COOKIE_DAYS * 86_400,
  });
}

/** The one-time address. A page, not an API: it answers with a page that moves on, so that the strict cookie is sent. */
@ApiTags('session')
@Controller('enter')
export class EnterController {
  constructor(private readonly sessions: SessionService) {}

  @Get()
  async enter(@Query() query: EntryQuery, @Req() request: FastifyRequest, @Res() reply: FastifyReply): Promise<void> {
    if (!(await this.sessions.isSignedIn(request.cookies[COOKIE]))) {
      const token = await this.sessions.enter(query.code).catch(() => undefined);
      if (token === undefined) {
        void reply.status(303).header('location', '/sign-in?used=1').send();
        return;
      }
      setCookie(reply, token);
    }
    // a redirect would count as coming from elsewhere, for which a strict cookie is withheld
    void reply
      .header('content-type', 'text/html; charset=utf-8')
      .send('<!doctype html><meta charset="utf-8"><title>Rellin</title><meta http-equiv="refresh" content="0;url=/">');
  }
}

@ApiTags('session')
@Controller('session')
export class SessionController {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly sessions: SessionService,
  ) {}

  @Get()
  async session(@Req() request: FastifyRequest): Promise<SessionView> {
    return {
      signedIn: await this.sessions.isSignedIn(request.cookies[COOKIE]),
      needsPassphrase: await this.sessions.hasPassphrase(),
      version: '0.1.0',
      demo: this.config.demo,
    };
  }

  @Post('sign-in')
  @HttpCode(204)
  async signIn(@Body() body: Passphrase, @Res() reply: FastifyReply): Promise<void> {
    setCookie(reply, await this.sessions.signIn(body.passphrase));
    void reply.status(204).send();
  }

  @Post('leave')
  @HttpCode(204)
  async leave(@Req() request: FastifyRequest, @Res() reply: FastifyReply): Promise<void> {
    const token = request.cookies[COOKIE];
    if (token) await this.sessions.leave(token);
    void reply.clearCookie(COOKIE, { path: '/' }).status(204).send();
  }

  /** A new one-time address's code; for the command and the start script. */
  @Post('code')
  @HttpCode(200)
  code() {
    return { code: this.sessions.newCode() };
  }

  @Put('passphrase')
  @HttpCode(204)
  setPassphrase(@Body() body: NewPassphrase) {
    return this.sessions.setPassphrase(body.passphrase);
  }
}
