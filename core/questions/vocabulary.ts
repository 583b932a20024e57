/** Words that worksheets use, in the languages of the teachers we serve; all compared in lower case. */

/** Words that stand before a question's number. */
export const QUESTION_WORDS = [
  'question',
  'problem',
  'exercise',
  'task',
  'item',
  'aufgabe',
  'frage',
  'übung',
  'uebung',
  'ejercicio',
  'pregunta',
  'problema',
  'actividad',
  'exercice',
  'problème',
  'probleme',
  'esercizio',
  'quesito',
  'domanda',
  'exercício',
  'exercicio',
  'questão',
  'questao',
  'opgave',
  'vraag',
  'oefening',
  'uppgift',
  'oppgave',
  'opgaven',
  'tehtävä',
  'zadanie',
  'pytanie',
  'úloha',
  'uloha',
  'příklad',
  'feladat',
  'zadatak',
  'naloga',
  'exercițiul',
  'exercitiul',
  'problema',
  'задача',
  'задание',
  'вопрос',
  'упражнение',
  'завдання',
  'soru',
  'alıştırma',
  'bài',
  'câu',
  'soal',
  'harjutus',
  'ülesanne',
  'uzdevums',
  'užduotis',
  'verkefni',
  'άσκηση',
  'θέμα',
  'ασκηση',
  'θεμα',
  'ariketa',
  'exercici',
  'pregunta',
  'ceist',
  'cwestiwn',
]

/** Words that stand before a section's number or letter: never a question. */
export const SECTION_WORDS = [
  'section',
  'part',
  'teil',
  'abschnitt',
  'sección',
  'seccion',
  'parte',
  'partie',
  'sezione',
  'secção',
  'seção',
  'deel',
  'del',
  'część',
  'część',
  'часть',
  'раздел',
  'bölüm',
  'chapter',
  'unit',
  'kapitel',
  'bloque',
  'block',
  'bloc',
  'paper',
  'booklet',
  'stage',
  'level',
  'set',
  'oddíl',
  'osa',
  'rész',
]

/** Headings under which the answers stand. */
export const ANSWER_HEADINGS =
  /^[\W\d]*(answers?( (key|keys|sheet|sheets|section|grid|page|scheme|booklet))?|answer(s)? to .{0,40}|mark(ing)? ?(scheme|guide|ing)|marking (scheme|guide|guidelines|key)|model answers|worked (answers|solutions)|solutions?( (key|sheet|manual|guide))?|solutions? to .{0,40}|key|bubble sheet|response sheet|lösung(en)?(sblatt|sbogen|sschlüssel)?|antwort(en|bogen|blatt)|erwartungshorizont|musterlösung(en)?|soluciones|solucionario|respuestas|hoja de respuestas|clave( de respuestas)?|corrig[ée]s?( .{0,30})?|réponses|feuille[- ]réponses?|barème|soluzioni|risposte|foglio (delle )?risposte|griglia|soluções|respostas|gabarito|folha de respostas|antwoorden|antwoordblad|uitwerkingen|correctievoorschrift|facit|svar(sblankett)?|lösningar|fasit|ratkaisut|vastaukset|odpowiedzi|klucz( odpowiedzi)?|karta odpowiedzi|řešení|výsledky|riešenia|megoldás(ok)?|megoldókulcs|rješenja|rešitve|răspunsuri|ответы|решения|ключи?|бланк ответов|відповіді|cevap(lar)?( anahtarı)?|çözümler|đáp án|kunci jawaban|λύσεις|απαντήσεις|参考答案|答案|解答)[\W\d]*$/iu

/** The same as a part of a longer heading: "Balloon Day: answers", "Quiz 4 answer key". */
export const ANSWER_HEADING_END =
  /(answer key|answer sheet|answers|mark(ing)? scheme|solutions|lösungen|lösungsblatt|antwortbogen|soluciones|hoja de respuestas|respuestas|corrigé|réponses|feuille de réponses|soluzioni|risposte|gabarito|respostas|soluções|antwoorden|facit|odpowiedzi|ответы)\W*$/iu

/** What cover pages say. */
export const COVER_WORDS =
  /\b(instructions?|information|read (these|the|all)|answer all|write your (name|answers?)|you may use|you must|do not (open|write|use)|calculators?|time allowed|total marks?|marks? available|candidate|centre number|materials|black (ink|pen)|black or blue|show (all )?(your )?work(ing)?|invigilator|hinweise|hilfsmittel|bearbeitungszeit|taschenrechner|schreiben sie|instrucciones|tiempo|calculadora|lee atentamente|(tu|su|vuestro) nombre|consignes|durée|calculatrice|l'usage|votre nom|feuille|ihren namen|namen|istruzioni|durata|calcolatrice|instruções|duração|calculadora|seu nome|nome e cognome|il tuo nome|instructies|hulpmiddelen|rekenmachine|je naam|fill in the boxes|at the top of|barcode|question paper|carefully|time limit|minuten zeit|minutes? allowed)\b/giu

/** Words that open shared instructions over more than one question. */
export const SHARED_WORDS =
  /^(for )?(questions|problems|exercises|items|q(s|uestions)?\.?|aufgaben|fragen|preguntas|ejercicios|questions|exercices|domande|esercizi|questões|exercícios|vragen|opgaven|uppgifterna?|zadania|задания|задачи)\s*\(?\d+\s*(-|–|—|to|and|through|bis|und|a|al|y|à|et|e|ao|tot|en|till|do|по|и|&)\s*\d+/iu
export const SHARED_MENTION =
  /\b(questions|problems|exercises|items|aufgaben|fragen|preguntas|ejercicios|exercices|domande|esercizi|questões|exercícios|vragen|opgaven)\s*\(?\d+\s*(-|–|—|to|and|through|bis|und|a|al|y|à|et|e|ao|tot|en)\s*\d+/iu
export const SECTION_OPENING = new RegExp(`^(${SECTION_WORDS.join('|')})\\s+([A-Za-z]|\\d{1,2}|[IVX]{1,4})\\b`, 'iu')
/** A line that tells what to do with all that follows, without a number of its own. */
export const INSTRUCTION_OPENING =
  /^(answer|choose|circle|select|solve|simplify|calculate|evaluate|work out|find|factor(ise|ize)?|expand|write|round|convert|complete|use|for each|in each|each question|all questions|show|read|directions?|instructions?|note|multiple[- ]choice|short[- ]answer|berechne|löse|vereinfache|kreuze|resuelve|calcula|simplifica|elige|marca|résoudre|calculer|choisir|cocher|entourer|risolvi|calcola|scegli|calcule|resolva|assinale|bereken|kies)\b/iu

/** Orders to work something out: what follows are parts, not options. */
export const DO_WORDS =
  /\b(work out|calculate|simplify|solve|evaluate|find (the|each|all|x|y)|factor(ise|ize)?|expand|write|convert|complete|draw|sketch|plot|round|express|show|explain|state|describe|differentiate|integrate|estimate|determine|compute|prove|give|name|list|order|berechne|löse|bestimme|vereinfache|zeichne|wandle|gib|erkläre|begründe|zeige|calcula|resuelve|simplifica|halla|determina|escribe|expresa|explica|dibuja|calculer|résoudre|simplifier|déterminer|donner|montrer|écrire|tracer|expliquer|calculez|calcule|résous|calcola|risolvi|semplifica|determina|scrivi|bereken|los op|beräkna|lös|oblicz|rozwiąż|вычисли(те)?|реши(те)?|найди(те)?)\b/iu

/** Orders to choose: what follows are options. */
export const CHOOSE_WORDS =
  /\b(which( one)? of|which|what is|what are|how (many|much|far|long|high|old)|choose|select|circle|tick|mark the|the correct|correct answer|is closest|closest to|most likely|best describes|equal to|true or false|welche[rs]?|was ist|wie (viele?|groß|hoch|lang|weit)|kreuze|richtige?|cuál(es)?|qué|elige|marca|señala|correcta|quelle?s?|cochez?|coche|entoure[rz]?|choisi(r|s|ssez)|bonne réponse|quale|quali|segna|scegli|qual|quais|assinale|welke|wat is|kies|omcirkel|vilken|vilket|który|która|zaznacz|какой|какое|какая|выбери(те)?)\b/iu

/** The word for marks in many languages, for patterns. */
export const MARK_WORD =
  '(?:marks?|mks?|points?|pts?|p(?:kte|unkte?)?|pkt|ptos?|punti|punten|puntos?|pontos?|valores|poäng|poeng|point|pistettä|body|bodů|bod[yů]?|pont|puncte?|балл(?:а|ов)?|б|puan|điểm|điểm|μονάδες|分|点|credits?|be)'
