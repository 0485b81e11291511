import {
  Body,
  Controller,
  Delete,
  Get,
  HttpCode,
  Inject,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
  Req,
  Res,
} from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { EntryCode, SessionView, SignedIn } from '@rellin/contract';
import { CONFIG, type Config } from '../config/config.js';
import { hostKind } from '../config/hostName.js';
import { Rules, SMALL_BODY } from '../http/routeRules.js';
import { IDLE_DAYS } from './session.repository.js';
import { COOKIE, SessionService } from './session.service.js';
import { EntryQueryDto, PassphraseDto, NewPassphraseDto } from './dto/session.dto.js';

function setCookie(reply: FastifyReply, token: string): void {
  void reply.setCookie(COOKIE, token, {
    path: '/',
    httpOnly: true,
    sameSite: 'strict',
    maxAge: IDLE_DAYS * 86_400,
  });
}

/** Whether a request came under the page's own name, and the page's address. */
function here({ pageHost }: Config, { headers: { host } }: FastifyRequest): { isPage: boolean; address: string } {
  const port = Number(new URL(`http://${host}`).port);
  return { isPage: hostKind(host, pageHost, port) === 'page', address: `http://${pageHost}:${port}` };
}

const agentOf = (request: FastifyRequest) => request.headers['user-agent'] ?? '';

/**
 * The one-time address. A page, not an API: it answers with a page that moves on, so that the strict cookie is sent.
 */
@ApiTags('session')
@Controller('enter')
export class EnterController {
  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly sessions: SessionService,
  ) {}

  @Get()
  @Rules({ open: true, body: 'none' })
  async enter(
    @Query() query: EntryQueryDto,
    @Req() request: FastifyRequest,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const { isPage, address } = here(this.config, request);
    // under an address that other servers share no session begins
    if (!isPage && this.sessions.isCode(query.code)) {
      void reply.status(303).header('location', `${address}/enter?code=${query.code}`).send();
      return;
    }
    if (request.who.session === undefined) {
      const token = isPage ? await this.sessions.enter(query.code, agentOf(request)).catch(() => undefined) : undefined;
      if (token === undefined) {
        void reply.status(303).header('location', '/sign-in?used=1').send();
        return;
      }
      setCookie(reply, token);
    }
    // a redirect would count as coming from elsewhere, for which a strict cookie is withheld
    void reply
      .header('content-type', 'text/html; charset=utf-8')
      .header('cache-control', 'no-store')
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

  /** Whether this browser is signed in. A token that has served its time is changed for a new one on this occasion. */
  @Get()
  @Rules({ open: true, body: 'none' })
  async session(@Req() request: FastifyRequest, @Res({ passthrough: true }) reply: FastifyReply): Promise<SessionView> {
    const token = request.cookies[COOKIE];
    const signedIn = request.who.session !== undefined;
    const fresh = signedIn && token ? await this.sessions.renewed(token) : undefined;
    if (fresh !== undefined) setCookie(reply, fresh);
    return {
      signedIn,
      needsPassphrase: await this.sessions.hasPassphrase(),
      version: '0.1.0',
      demo: this.config.demo,
    };
  }

  /** By the passphrase. Under an address that other servers share the answer leads to the page's own name. */
  @Post('sign-in')
  @HttpCode(200)
  @Rules({ open: true, body: SMALL_BODY })
  async signIn(
    @Body() body: PassphraseDto,
    @Req() request: FastifyRequest,
    @Res({ passthrough: true }) reply: FastifyReply,
  ): Promise<SignedIn> {
    const { isPage, address } = here(this.config, request);
    if (isPage) {
      setCookie(reply, await this.sessions.signIn(body.passphrase, request.who.user, agentOf(request)));
      return { goOnAt: null };
    }
    await this.sessions.provePassphrase(body.passphrase, request.who.user);
    return { goOnAt: `${address}/enter?code=${this.sessions.newCode()}` };
  }

  @Post('leave')
  @HttpCode(204)
  @Rules({ open: true, body: SMALL_BODY })
  async leave(@Req() request: FastifyRequest, @Res() reply: FastifyReply): Promise<void> {
    if (request.who.session !== undefined) await this.sessions.end({ id: request.who.session });
    void reply.clearCookie(COOKIE, { path: '/' }).status(204).send();
  }

  /** A new one-time address; for the command and the start script. */
  @Post('code')
  @HttpCode(200)
  code(@Req() request: FastifyRequest): EntryCode {
    const code = this.sessions.newCode();
    return { code, address: `${here(this.config, request).address}/enter?code=${code}` };
  }

  /** Whoever is signed in by another browser is signed out by it. */
  @Put('passphrase')
  @HttpCode(204)
  setPassphrase(@Body() body: NewPassphraseDto, @Req() { who }: FastifyRequest) {
    return this.sessions.setPassphrase(body.passphrase, body.current, who);
  }

  @Get('browsers')
  browsers(@Req() { who }: FastifyRequest) {
    return this.sessions.list(who.session);
  }

  /** Signs out every browser but the one that asks. */
  @Delete('browsers')
  async endOthers(@Req() { who }: FastifyRequest) {
    return { ended: await this.sessions.end({ allBut: who.session }) };
  }

  @Delete('browsers/:id')
  async endOne(@Param('id', ParseUUIDPipe) id: string) {
    return { ended: await this.sessions.end({ id }) };
  }
}
