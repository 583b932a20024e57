import type { Random } from './random'

/** Invented questions in four languages; `#` becomes a number. `stem` opens parts, `choose` opens options, `ask` stands alone. */
export const LANGUAGES = {
  en: {
    keyword: ['Question', 'Problem', 'Exercise', 'Task'], mark: ['mark', 'marks'], point: ['point', 'points'], short: 'pts', section: 'Section', answers: ['Answers', 'Answer key', 'Mark scheme', 'Solutions'], sheet: 'Answer sheet', page: 'Page', total: 'Total', figure: 'Use the table below to answer questions # to #.', each: 'Each question is worth # marks.', instruct: ['Answer all the questions.', 'Show your working.', 'Choose the best answer.'],
    rules: ['Write your name in the box above.', 'Use black ink. You may use a calculator.', 'Answer all questions.', 'Show all your working in the space provided.', 'Do not open this booklet until you are told to.'],
    ask: ['The balloon rises # m in every minute. How high is it after # minutes?', 'Work out # × #.', 'A rope of # m is cut into # equal pieces. How long is each piece, and how much is left over?', 'Solve #x + # = #.', 'Find the mean of #, #, # and #.', 'The recipe needs # g of flour for # people. How much flour is needed for # people? Give your answer in grams, to the nearest whole number.', 'Explain why the sum of two odd numbers is always even.', 'Calculate the area of a rectangle with sides # cm and # cm.'],
    stem: ['The weather station reads # °C at noon and # °C at midnight.', 'A path runs round a garden of # m by # m.', 'The table shows the heights of # plants, in cm.', 'Work out each of these.', 'Simplify:', 'A car travels # km in # hours.'],
    part: ['Find the difference.', 'What is its perimeter?', 'Work out # − #.', '# + # = ______', 'Draw the graph.', 'Write # as a product of primes.', 'Give a reason for your answer.', 'How many are taller than # cm?', 'Calculate the mean speed in km/h.', '#x = #'],
    choose: ['Which of these is equal to # × #?', 'What is the value of #x when x = #?', 'The pressure at a height of # km is closest to', 'How many minutes are there in # hours?', 'Which shape has # sides?', 'A triangle with angles of #° and #° is ______.'],
    option: ['# km', '#', '# cm', 'none of these', 'a square', 'the height of the balloon above the ground', '#.5 hPa', 'it stays the same', 'two right angles', '#x + #'],
  },
  de: {
    keyword: ['Aufgabe', 'Frage', 'Übung'], mark: ['Punkt', 'Punkte'], point: ['Punkt', 'Punkte'], short: 'P.', section: 'Teil', answers: ['Lösungen', 'Musterlösung'], sheet: 'Antwortbogen', page: 'Seite', total: 'Gesamt', figure: 'Benutze die Tabelle für die Aufgaben # bis #.', each: 'Jede Aufgabe zählt # Punkte.', instruct: ['Bearbeite alle Aufgaben.', 'Kreuze die richtige Antwort an.'],
    rules: ['Schreiben Sie Ihren Namen auf jedes Blatt.', 'Hilfsmittel: Taschenrechner.', 'Bearbeitungszeit: # Minuten.'],
    ask: ['Der Ballon steigt in jeder Minute # m. Wie hoch ist er nach # Minuten?', 'Berechne # · #.', 'Löse die Gleichung #x + # = #.', 'Ein Seil von # m wird in # gleiche Stücke geschnitten. Wie lang ist jedes Stück?', 'Begründe, dass die Summe zweier ungerader Zahlen gerade ist.'],
    stem: ['Die Wetterstation misst mittags # °C und nachts # °C.', 'Vereinfache:', 'Ein Weg führt um einen Garten von # m mal # m.'],
    part: ['Bestimme den Unterschied.', 'Wie groß ist der Umfang?', 'Berechne # − #.', 'Zeichne den Graphen.', 'Gib eine Begründung an.', '#x = #'],
    choose: ['Welche Zahl ist gleich # · #?', 'Wie viele Minuten hat # Stunden?', 'Welche Figur hat # Seiten?'],
    option: ['# km', '#', 'keine davon', 'ein Quadrat', '#,5 hPa', 'sie bleibt gleich'],
  },
  es: {
    keyword: ['Ejercicio', 'Pregunta', 'Problema'], mark: ['punto', 'puntos'], point: ['punto', 'puntos'], short: 'ptos', section: 'Sección', answers: ['Soluciones', 'Respuestas'], sheet: 'Hoja de respuestas', page: 'Página', total: 'Total', figure: 'Usa la tabla para las preguntas # a #.', each: 'Cada pregunta vale # puntos.', instruct: ['Responde a todas las preguntas.', 'Marca la respuesta correcta.'],
    rules: ['Escribe tu nombre en cada hoja.', 'Se permite la calculadora.', 'Tiempo: # minutos.'],
    ask: ['El globo sube # m cada minuto. ¿A qué altura está después de # minutos?', 'Calcula # × #.', 'Resuelve #x + # = #.', 'Halla el área de un rectángulo de # cm por # cm.'],
    stem: ['La estación mide # °C a mediodía y # °C a medianoche.', 'Simplifica:', 'Un camino rodea un jardín de # m por # m.'],
    part: ['Halla la diferencia.', '¿Cuál es el perímetro?', 'Calcula # − #.', 'Dibuja la gráfica.', 'Explica tu respuesta.', '#x = #'],
    choose: ['¿Cuál de estos números es igual a # × #?', '¿Cuántos minutos hay en # horas?', '¿Qué figura tiene # lados?'],
    option: ['# km', '#', 'ninguna de ellas', 'un cuadrado', '#,5 hPa', 'queda igual'],
  },
  fr: {
    keyword: ['Exercice', 'Question', 'Problème'], mark: ['point', 'points'], point: ['point', 'points'], short: 'pts', section: 'Partie', answers: ['Corrigé', 'Réponses'], sheet: 'Feuille de réponses', page: 'Page', total: 'Total', figure: 'Utilisez le tableau pour les questions # à #.', each: 'Chaque question vaut # points.', instruct: ['Répondez à toutes les questions.', 'Cochez la bonne réponse.'],
    rules: ['Écrivez votre nom sur chaque feuille.', 'La calculatrice est autorisée.', 'Durée : # minutes.'],
    ask: ['Le ballon monte de # m par minute. À quelle hauteur est-il après # minutes ?', 'Calculer # × #.', 'Résoudre #x + # = #.', 'Déterminer l’aire d’un rectangle de # cm sur # cm.'],
    stem: ['La station mesure # °C à midi et # °C à minuit.', 'Simplifier :', 'Une allée entoure un jardin de # m sur # m.'],
    part: ['Déterminer la différence.', 'Quel est le périmètre ?', 'Calculer # − #.', 'Tracer la courbe.', 'Justifier la réponse.', '#x = #'],
    choose: ['Lequel de ces nombres est égal à # × # ?', 'Combien de minutes y a-t-il dans # heures ?', 'Quelle figure a # côtés ?'],
    option: ['# km', '#', 'aucun', 'un carré', '#,5 hPa', 'elle reste la même'],
  },
}
export type Language = keyof typeof LANGUAGES

export const fill = (text: string, r: Random) => text.replace(/#/g, () => String(r.pick([r.int(2, 9), r.int(10, 99), r.int(100, 999)])))
