using System.Security.Cryptography;

namespace Fenster.Store;

/// <summary>Two short words that are easy to say, to hear and to type, such as "amber kite": one of more than fifteen thousand.</summary>
public static class TwoWords
{
    private static readonly string[] First = (
        "amber apple autumn bold brave bright brisk calm candle cedar clear clever cloudy coral cosy "
        + "crisp curly dawn deep early eager easy even fair famous fern fine fresh "
        + "gentle giant glad golden grand great green happy honest humble icy ivory jade jolly keen kind "
        + "large late lemon light little lively lucky maple marble merry mild mint misty modern "
        + "neat new noble north oak olive open orange ocean paper pearl plain plum polite proud purple "
        + "quick quiet rapid ready red ripe river robin rosy round royal ruby rusty sandy "
        + "sharp shiny silent silver simple smart smooth snowy soft solid spring steady still stone strong "
        + "summer sunny sure swift tall tidy tiny velvet warm west white wide wild winter wise young"
    ).Split(' ');

    private static readonly string[] Second = (
        "acorn anchor arrow badge bagpipe banjo barn basket beach bell bench berry bird boat book bottle "
        + "branch bridge brook brush bucket button cabin candle canoe canyon carrot castle cello "
        + "chair cherry clock cloud clover coat coin comet compass cookie cottage cricket crown cup daisy desert "
        + "dolphin door dragon drum duck eagle engine falcon feather fiddle field flag flute "
        + "forest fountain fox garden gate globe goose grape guitar hammer harbour harp hat hill horse island "
        + "jacket jewel kettle kite ladder lake lamp lantern leaf lion lobster map meadow melon "
        + "mirror moon mountain needle nest oar orchard otter owl paddle panda path peach pebble pencil piano "
        + "pillow pine planet pony puffin rabbit raft rain ribbon ring robot rocket rope saddle "
        + "sail seal shell ship shoe spoon star stork stream swan table teapot tent tiger tower "
        + "train tree trumpet tulip turtle violin wagon whale whistle window wren"
    ).Split(' ');

    // Things that a child knows, written without accents, so that they are typed on any keyboard.
    private static readonly Dictionary<string, string[]> Things = new()
    {
        ["de"] = (
            "abend adler affe ampel anker apfel baum berg besen biene birne blatt blume boot brief brille brot brunnen buch burg "
            + "dachs delfin dorf drachen eimer eisberg elch ente esel eule fahne feder fels fenster fisch flagge floss flut fuchs garten "
            + "geige glas glocke gras gurke hafen hahn hase hecht helm herbst himmel hirsch hut igel insel jacke kahn kamel kamm kanne "
            + "karte katze kerze kette kiesel kirsche klee knopf koffer korb kran krone kuchen lampe laterne leiter licht linde mais mantel "
            + "maus meer messer mohn mond moos nadel nebel nest nuss ofen paddel palme papier pinsel pirat quelle rabe rad "
            + "regen reh ring rose ruder sand schal schiff schnee segel seil sommer sonne specht spiegel stein stern storch strand stuhl tanne "
            + "tasche tasse teich tiger tinte tisch topf trommel tulpe turm uhr ulme vogel wagen wald wal wasser welle wiese wind winter wolke "
            + "wolle wurzel zaun zebra zelt ziege zitrone zug zwiebel"
        )
            .Split(' ')
            .Distinct()
            .ToArray(),
        ["fr"] = (
            "abeille agneau aigle ananas ancre anneau arbre arche argent avion balai balle ballon banane bateau bijou biscuit bois bonnet "
            + "botte bouton branche brise brosse bulle cabane cactus cadre cahier canard canoe carotte carte castor cerf cerise chaise chameau "
            + "chat cheval chien clef cloche coffre colline copain corail corde crayon cygne dauphin dragon eau eclair encre etoile "
            + "farine faucon fenouil ferme feuille ficelle fleur flocon fontaine fraise gant gare girafe givre gomme grenade grue guitare "
            + "hamac harpe herbe hibou horloge iris jardin jasmin jeudi jonquille jumelle koala lac laine lampe lapin lilas lion livre loup "
            + "loutre lune lutin maison marin marteau melon menthe merle miel miroir montagne moulin mouton navire neige noix nuage olive "
            + "orage orange orgue oursin palmier panda panier papier parc pelle perle phare piano pierre pigeon plage plume poire pomme pont "
            + "porte poule prairie prune puits radis raisin rame rivage robot rosier ruban sable sapin savon serin soleil souris stylo sucre "
            + "table tambour tasse tente tigre tilleul toit tomate train tulipe vache vague valise vent verger village violon voile zebre"
        )
            .Split(' ')
            .Distinct()
            .ToArray(),
        ["es"] = (
            "abeja abeto agua aldea alfombra amigo ancla anillo arco arena armario arroz asno avena avestruz avispa azul bahia balcon "
            + "ballena banco bandera barco barro bolsa bosque bota bote brisa brocha burbuja caballo cactus caja calle cama camello camino "
            + "campana canoa caracol carta casa castillo cebra cereza cesta cielo ciervo cisne ciudad clavel cobre cometa conejo copa coral "
            + "corona cuaderno cubo cuerda delfin desierto dragon escalera escoba espejo espuma estrella faro feria flauta flor foca fresa "
            + "fuente gallo ganso garza gato girasol globo goma gorra granja grillo guante guitarra hada harina helado hielo hierba higo hilo "
            + "hoja iglesia isla jirafa jueves lago lana lechuga lente leon libro lienzo lila lince lirio llave lluvia lobo luna madera maleta "
            + "manzana mapa mar mariposa melon menta mesa miel molino moneda mono monte muelle naranja nave nido nieve nube nuez oasis oliva "
            + "ola oso oveja palma panda papel parque pato pera perla pez piano piedra pino plata playa pluma polo pozo prado puente puerta "
            + "queso rama rana regla remo reloj risa roble roca rosa rueda sal sandia sauce sello selva silla sol sombrero tambor taza tigre "
            + "tomate torre tortuga tren trigo uva vaca valle vela ventana verano viento violin yate zorro"
        )
            .Split(' ')
            .Distinct()
            .ToArray(),
        ["ar"] = (
            "باب بحر بدر برج برق بستان بطة بيت تاج تفاح تمر ثلج جبل جرس جزر جسر جمل جوز حبل حجر حديقة حصان حقل حليب خبز خروف خيمة دار درب "
            + "دلو ديك ذهب رمل ريح ريشة زر زهرة زورق زيتون ساعة سحاب سفينة سلة سلم سماء سمك سنبلة سور سوق شاطئ شباك شجرة شراع شمس شمعة صخر "
            + "صدف صقر صندوق طاولة طبل طريق طير عسل عش عصفور علم عنب غابة غزال غصن غيم فجر فراشة فضة فنجان فيل قارب قصر قطار قطن قلعة قلم قمح "
            + "قمر قنديل قوس كتاب كرز كرسي كوب كوكب لوح لوز ليمون مرجان مركب مسك مشط مصباح مطر مفتاح ملح موج موز ميناء نجم نحلة نخل نسر نسيم نهر "
            + "نورس هلال واحة وادي ورد ورق يمام ينبوع"
        )
            .Split(' ')
            .Distinct()
            .ToArray(),
    };

    /// <param name="language">A BCP 47 tag; words are English where there are none in it.</param>
    public static string New(string language = "en") =>
        Things.GetValueOrDefault(language.Split('-')[0]) is { } things ? Different(things) : $"{OneOf(First)} {OneOf(Second)}";

    private static string Different(string[] things)
    {
        var first = OneOf(things);
        while (true)
            if (OneOf(things) is var second && second != first)
                return $"{first} {second}";
    }

    private static string OneOf(string[] words) => words[RandomNumberGenerator.GetInt32(words.Length)];

    /// <summary>What a person typed, as the words it means: in small letters, with one blank between.</summary>
    public static string Tidy(string typed) =>
        string.Join(' ', typed.ToLowerInvariant().Split([' ', '-', '\t', '\u00A0'], StringSplitOptions.RemoveEmptyEntries));
}
