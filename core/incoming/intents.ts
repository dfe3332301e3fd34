/*
 * What somebody wants who answers, by their words: rules in two languages, each with what must not stand near. They are
 * read sentence by sentence; what nothing fits is not guessed.
 */

export const intents = [
  /** No more mail of this kind. */
  'stop writing',
  'cancel',
  /** Another time for what is booked or offered. */
  'move',
  /** They have found somebody else, or need nothing any more. */
  'no longer wanted',
  /** Later: not before a date, or they come back to it. */
  'later',
  'call',
  'agrees',
  /** They want to know something. */
  'asks',
  'thanks',
  'unknown',
] as const
export type Intent = (typeof intents)[number]

export interface IntentRule {
  readonly intent: Exclude<Intent, 'asks' | 'unknown'>
  readonly words: RegExp
  /** Words that turn it into its opposite, or into something else. */
  readonly unless?: RegExp
}

/** So much may stand between two words of one thought. */
const gap = '[^.!?;\\n]{0,40}?'
const rule = (intent: IntentRule['intent'], words: string, unless?: string): IntentRule => ({
  intent,
  words: new RegExp(words.replaceAll(' … ', gap), 'iu'),
  ...(unless === undefined ? {} : { unless: new RegExp(unless.replaceAll(' … ', gap), 'iu') }),
})

const notCancelling =
  "\\b(not|n[’']t|never|no need to|without|rather than|instead of)\\s+(want to |have to |wish to |be |going to )?cancel|(nicht|keinesfalls|ohne … zu) (zu )?(stornieren|absagen)|(stornieren|absagen) … nicht\\b|cancel(l?ation)? (policy|fee|terms|until|up to)|\\b(can|could|may) (we|i) … cancel\\b … (until|free|later)|wenn wir … (stornieren|absagen)|stornier(en|ung) … (möglich|kosten|frei)|stornobedingungen|(is there|is it|until when|by when|how|what|can (we|i|one)|could (we|i|one)|bis wann|wie|kann man|können wir|könnten wir|ist es|gibt es) … (cancel|stornier|absag)[^.!;\\n]*\\?"
const notFitting =
  "\\b(not|n[’']t|never|hardly|unfortunately no)\\b … (work|suit|fit|good|fine|okay|possible|agree|happy)|(passt|geht|klappt) … (nicht|leider nicht|kaum)\\b|nicht (so )?(gut|einverstanden|gern)|leider (nein|nicht)|kommen nur\\b|\\bif\\b … (works|suits)|\\b(falls|wenn)\\b … passt"

export const intentRules: readonly IntentRule[] = [
  rule(
    'stop writing',
    "\\bunsubscribe\\b|(stop|no longer|never|don[’']?t|do not) … (writing|write|e-?mailing|mailing|sending|send) … (me|us|this|these|any)|(take|remove) (me|us) (off|from)|no (more|further) (e-?mails|mails|messages|newsletters?)|(keine|nicht) (weiteren |mehr )?(e-?mails?|mails?|nachrichten|werbung|newsletter)( mehr)?|abmelden … (newsletter|verteiler|liste)|aus (dem|der|ihrem|ihrer) (verteiler|liste|e-?mail-?liste)|vom (newsletter|verteiler) (ab|austragen)|(schreiben|schicken|senden) sie (mir|uns) (bitte )?(nicht|nichts|keine)|nicht mehr (an)?schreiben",
    'no (more|further) (e-?mails|messages) (came|arrived|since)|keine (mails?|nachrichten?) (bekommen|erhalten|angekommen)',
  ),
  rule(
    'move',
    '\\b(reschedule|postpone)\\b|\\b(move|shift|change|switch|put off|push back|bring forward)\\b … (booking|lesson|flight|appointment|date|day|time|it|us|our)\\b|(another|a different|other) (day|date|time|slot)|\\b(an?|one|two|three|some|\\d+) (hours?|days?|weeks?|months?) (later|earlier)\\b|(eine?|zwei|drei|\\d+) (stunden?|tage?|wochen?|monate?) (später|früher)|\\b(instead|rather)\\b|verschieben|umbuchen|verlegen|(anderer|anderen|anderem|ein andere[rsn]?) (termin|tag|zeit|datum|uhrzeit)|\\bstatt(dessen| am)?\\b|lieber (am|im|um|erst|doch)',
    "(not|n[’']t|no need to) … (move|reschedule|postpone|change)|nicht (verschieben|umbuchen|verlegen)|instead of (cancel|call|writ)|\\b(change|move) … (mind|house|flat|number|address)",
  ),
  rule(
    'cancel',
    "\\bcancel(l?ing|l?ed)?\\b|call (it|the .{1,20}) off|(can[’']?t|cannot|can not|won[’']?t|will not|unable to|not able to|not be able to) … (make it|come|attend|be there|join)|\\b(none|neither|nobody|no one) … (able to|make it|come|be there)|(schaffen|schaffe) (es|das) … nicht|(have|need) to (withdraw|pull out)|stornier|absagen|abzusagen|sagen (wir|ich) … ab\\b|(können|kann|schaffen|schaffe) (wir |ich |es )?(leider )?(nicht|doch nicht|nun nicht|es nicht) … (kommen|teilnehmen|dabei|schaffen)|(müssen|muss) … (abspringen|zurücktreten)",
    notCancelling,
  ),
  rule(
    'no longer wanted',
    "(found|chosen|chose|hired|booked|decided (on|for)|going with|went with|gone with|settled on) … (somebody|someone|somewhere|another|other|else|a different|elsewhere|different)|(no longer|not any ?more|don[’']?t|do not|not) (really )?(need|interested|require|looking|want (it|this|the))|not interested|(decided|going) (against|not to)|(jemand|etwas|wen) ander(en|em|es|er)s? … (gefunden|entschieden|gebucht|genommen)|anderweitig|anders entschieden|(für|gegen) (einen|ein|eine) ander(en|es|e)|kein (interesse|bedarf)|(nicht|kein) mehr (interessiert|nötig|gebraucht|brauchen)|brauchen (wir |ich )?(es |das |sie )?(nicht mehr|nicht länger)|dagegen entschieden|hat sich … erledigt|hat sich erledigt",
    "(not|n[’']t|haven[’']?t|nobody|no one) (yet )?(found|chosen|decided|booked|hired)|(noch )?(nicht|niemand|keinen?) … (gefunden|entschieden|gebucht)|not need to (bring|pay|call|worry|come)|(do|don[’']?t|does) (we|i|they) (not )?need to|need to (bring|wear|pay|know)",
  ),
  rule(
    'later',
    "not (before|until|till)|no(thing)? (before|until)|\\b(only|earliest|at the earliest)\\b … (in|from|after|next)|(not|n[’']t) … (now|at the moment|yet|right now|this (year|month|week|summer|season)) … (later|again|next|after|in|but)|(get|come|be|write|ask|check|contact|try|remind) (back |in touch |us |me |to |again ){1,4}[^.!?;\\n]{0,40}?\\b(in|after|next|on|once|at the|later|when|around)|(get|come) back to (you|us|me)|(maybe|perhaps|rather) (later|next|in)|too (early|soon)|frühestens|\\bvor (dem |den |der )?\\p{L}+ … (nichts|nicht|kaum)\\b|dieses? (jahr|monat|sommer|woche) … nicht\\b|noch einmal|nochmals? … (in|nach|im) |\\berst (im|in|nach|ab|wieder|zum|nächste[nrs]?|ende|anfang|mitte|am)|nicht vor\\b|(melden|melde) (uns|mich|sie sich) … (wieder|noch|nach|im|in|dann|bei)|(fragen|schreiben|melden) sie … (wieder|noch einmal|nochmal|nach|im|in) |(später|ab) (im|in|nach)|zu früh|(momentan|derzeit|zurzeit|jetzt|gerade) … (nicht|noch nicht|schlecht|ungünstig)",
    '\\b(call|phone|ring)\\b|anrufen|rufen sie|telefon',
  ),
  rule(
    'call',
    '\\b(call|phone|ring|telephone) (me|us|him|her|my|our|on|at|tomorrow|next|this|back|again|after|before)\\b|(give|drop) (me|us) a (call|ring|buzz)|(could|can|would|will) you … (call|phone|ring)|(speak|talk|discuss|chat) … (on|over|by) the phone|please (call|phone|ring)\\b|(rufen|ruf) … (mich|uns|an)\\b|(bitte|gern|gerne|könn(en|ten) sie) … (anrufen|telefonieren|rückruf)|um (einen )?(rück)?(anruf|ruf)|(zurück|durch)rufen|telefonisch (erreich|besprech|klär)|(kurz |mal )?telefonieren',
    "(not|n[’']t|no need to|rather than|instead of) … (call|phone|ring)|(nicht|keinesfalls) … (anrufen|telefonieren|rufen)|rufen sie … nicht\\b|\\b(we|i)( wi)?[’']?ll (call|phone|ring) |(wir|ich) (rufen|rufe|melden|melde) (sie|uns|mich|dann)|(what|which) … (number|call)|call(ed)? it off",
  ),
  rule(
    'agrees',
    "^\\W*(yes|yep|yeah|ja|jawohl|gern|gerne|klar|okay|ok|perfect|great|wonderful|super|prima|perfekt|wunderbar)\\b|\\b(works|suits|fits|fine|perfect|good|okay|ok) (for|with|by) (us|me)\\b|\\b(that|it|this|which|monday|tuesday|wednesday|thursday|friday|saturday|sunday|morning|evening|afternoon|time|date|day) … (works|suits|fits|is (fine|perfect|good|great|okay))|(we|i)( wi|[’'])?ll (take|book|be there|come|have) |(we|i) (would|[’']d) (like|love) to (book|take|come|go ahead|confirm|accept)|go ahead|count us in|we accept|(happy|glad) to (confirm|accept|book|come)|look(ing)? forward to (it|seeing|meeting)|\\b(passt|klappt|geht)\\b( uns| mir| gut| bei| perfekt| wunderbar| so|[,.! ]|$)|einverstanden|(nehmen|buchen|kommen) (wir|ich) (gern|gerne|das|den|es|sehr)?|(wir|ich) (nehmen|nehme|buchen|buche|kommen|komme|bestätigen|bestätige|sind dabei|bin dabei)|freuen uns (schon |sehr )?(auf|darauf)|hiermit bestätig",
    notFitting,
  ),
  rule(
    'thanks',
    '\\b(thanks?|thank you|cheers|much appreciated|dank(e|eschön)?|vielen dank|herzlichen dank)\\b',
  ),
]
